#include "base/utf8.h"

namespace yc {

std::size_t utf8_length(std::string_view text) {
  auto byte = [&](std::size_t i) { return i < text.size() ? static_cast<unsigned char>(text[i]) : 0U; };
  unsigned first = byte(0), second = byte(1);
  std::size_t size = first < 0x80                    ? 1
                     : first >= 0xC2 && first < 0xE0 ? 2
                     : first >= 0xE0 && first < 0xF0 ? 3
                     : first >= 0xF0 && first < 0xF5 ? 4
                                                     : 0;
  if (size == 0 || size > text.size()) return 0;
  for (std::size_t i = 1; i < size; ++i) {
    if ((byte(i) & 0xC0U) != 0x80U) return 0;
  }
  // Not the shortest form, halves of pairs, and what lies behind the last character.
  bool is_none = (first == 0xE0 && second < 0xA0) || (first == 0xED && second >= 0xA0) ||
                 (first == 0xF0 && second < 0x90) || (first == 0xF4 && second >= 0x90);
  return is_none ? 0 : size;
}

bool is_utf8(std::string_view text) {
  for (std::size_t at = 0, size = 0; at < text.size(); at += size) {
    size = utf8_length(text.substr(at));
    if (size == 0) return false;
  }
  return true;
}

}  // namespace yc
