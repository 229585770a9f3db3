#include "formats/c_family/standard_headers.h"
#include "words/c_family.h"

namespace yc::c_family {

bool is_standard_header(std::string_view name) {
  // ISO C and C++, then POSIX and the usual platform headers.
  if (words::c_family::standard_headers().contains(name)) return true;
  for (std::string_view head :
       {"sys/", "net/if", "netinet/", "arpa/", "linux/", "asm/", "bits/", "mach/", "machine/"}) {
    if (name.substr(0, head.size()) == head) return true;
  }
  return false;
}

}  // namespace yc::c_family
