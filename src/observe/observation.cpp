#include "observe/observation.h"

namespace yc {

std::string program_name(const ObservedProcess& process) {
  std::size_t slash = process.program.rfind('/');
  return slash == std::string::npos ? process.program : process.program.substr(slash + 1);
}

std::string command_text(const ObservedProcess& process, std::size_t most) {
  std::string out;
  for (const std::string& word : process.arguments) {
    std::string next = out.empty() ? word : " " + word;
    if (out.size() + next.size() > most) {
      if (out.empty()) out = next.substr(0, most);
      return out + " …";
    }
    out += next;
  }
  return out;
}

}  // namespace yc
