#include "formats/values/toml_depth.h"

#include <cctype>

namespace yc::values {

bool nests_too_deeply(std::string_view toml) {
  constexpr std::size_t kDeepest = 100;
  // Dots between the parts of one key, between which only blanks may stand beside them. Brackets the library
  // limits itself.
  std::size_t dots = 0;
  char last = 0;  // that is no blank
  bool is_apart = false;
  for (char c : toml) {
    if (c == ' ' || c == '\t') {
      is_apart = true;
      continue;
    }
    bool is_key = std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '-' || c == '"' ||
                  c == '\'' || (static_cast<unsigned char>(c) & 0x80U) != 0;
    if (c == '.') {
      if (++dots > kDeepest) return true;
    } else if (!is_key || (is_apart && last != '.')) {
      dots = 0;
    }
    is_apart = false;
    last = c;
  }
  return false;
}

}  // namespace yc::values
