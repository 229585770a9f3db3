#include "serve/saved_text.h"

#include "base/utf16.h"
#include "base/utf8.h"

namespace yc::serve {

namespace {

constexpr std::string_view kByteOrderMark = "\xEF\xBB\xBF", kWideMark = "\xFF\xFE";

bool ends_lines_as_windows(std::string_view text) {
  bool any = false;
  for (std::size_t at = text.find('\n'); at != std::string_view::npos; at = text.find('\n', at + 1)) {
    if (at == 0 || text[at - 1] != '\r') return false;
    any = true;
  }
  return any;
}

std::string with_windows_lines(std::string_view text) {
  std::string out;
  for (char c : text) {
    if (c == '\n') out += '\r';
    out += c;
  }
  return out;
}

// Each byte of a file that is not UTF-8 shown as the character of that number.
std::string shown_as_latin1(std::string_view bytes) {
  std::string out;
  for (char c : bytes) {
    auto byte = static_cast<unsigned char>(c);
    if (byte < 0x80) {
      out += c;
    } else {
      out += static_cast<char>(0xC0 | byte >> 6);
      out += static_cast<char>(0x80 | (byte & 0x3F));
    }
  }
  return out;
}

}  // namespace

std::string as_saved(std::string_view saved, std::string_view text) {
  auto wide = read_utf16(saved);
  std::string_view before = wide ? std::string_view(wide->text) : saved;
  bool has_mark = !wide && before.starts_with(kByteOrderMark) && !text.starts_with(kByteOrderMark);
  std::string out(text);
  if (text.find('\r') == std::string_view::npos && ends_lines_as_windows(before))
    out = with_windows_lines(text);
  if (has_mark) return std::string(kByteOrderMark) + out;
  if (wide) {
    auto units = to_utf16(out);
    return units ? std::string(kWideMark) + *units : out;
  }
  // Nobody knows what else it would be saved as; unchanged it is.
  if (!is_utf8(saved) && shown_as_latin1(saved) == out) return std::string(saved);
  return out;
}

}  // namespace yc::serve
