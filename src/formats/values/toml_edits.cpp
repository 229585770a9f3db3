#include "formats/values/toml_edits.h"

#include <algorithm>
#include <cctype>

#include "base/text.h"

namespace yc::values {

Span assignment(std::string_view text, Span value, bool is_quoted) {
  std::size_t at = value.begin - (is_quoted ? 1 : 0);
  while (at > 0 && (is_blank(text[at - 1]) || text[at - 1] == '=')) --at;
  while (at > 0 && (std::isalnum(static_cast<unsigned char>(text[at - 1])) || text[at - 1] == '-' ||
                    text[at - 1] == '_'))
    --at;
  return span_of(at, value.end + (is_quoted ? 1 : 0));
}

Span with_separator(std::string_view text, Span one) {
  std::size_t behind = text.find_first_not_of(" \t", one.end);
  if (behind != std::string_view::npos && text[behind] == ',') {
    std::size_t end = text.find_first_not_of(" \t", behind + 1);
    return span_of(one.begin, std::min(end, text.size()));
  }
  std::size_t before = one.begin;
  while (before > 0 && is_blank(text[before - 1])) --before;
  if (before > 0 && text[before - 1] == ',') return span_of(before - 1, one.end);
  std::size_t end = std::min(text.find('\n', one.end), text.size());
  bool is_line =
      trimmed(text.substr(line_begin(text, one.begin), one.begin - line_begin(text, one.begin))).empty() &&
      trimmed(text.substr(one.end, end - one.end)).empty();
  return is_line ? span_of(line_begin(text, one.begin), std::min(end + 1, text.size())) : one;
}

}  // namespace yc::values
