#include "formats/json/json_lists.h"

#include "formats/json/json_strings.h"

namespace yc::json {

namespace {

constexpr std::string_view kBlanks = " \t\r\n";

// The blanks that begin the line of a member that nothing else stands before; nothing if something does.
std::optional<std::string> own_indent(std::string_view bytes, std::size_t begin) {
  std::size_t line = bytes.rfind('\n', begin);
  if (line == std::string_view::npos || begin == 0) return std::nullopt;
  std::string_view before = bytes.substr(line + 1, begin - line - 1);
  if (before.find_first_not_of(" \t") != std::string_view::npos) return std::nullopt;
  bool crlf = line > 0 && bytes[line - 1] == '\r';
  return (crlf ? "\r\n" : "\n") + std::string(before);
}

}  // namespace

std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text) {
  auto written = escaped(text);
  if (!written) return std::nullopt;
  return "," + own_indent(bytes, word.begin).value_or(" ") + "\"" + *written + "\"";
}

std::optional<Span> without(std::string_view bytes, Span word) {
  if (word.begin >= word.end || word.end >= bytes.size()) return std::nullopt;
  std::size_t behind = bytes.find_first_not_of(kBlanks, word.end);
  std::size_t before =
      word.begin > 0 ? bytes.find_last_not_of(kBlanks, word.begin - 1) : std::string_view::npos;
  if (behind == std::string_view::npos || before == std::string_view::npos) return std::nullopt;
  bool last = bytes[behind] == ']', first = bytes[before] == '[';
  // With the comma before it, or if it is the first, with the one behind.
  if (bytes[before] == ',' && (last || bytes[behind] == ','))
    return Span{static_cast<std::uint32_t>(before), word.end};
  if (!first || bytes[behind] != ',') return std::nullopt;
  std::size_t next = bytes.find_first_not_of(kBlanks, behind + 1);
  if (next == std::string_view::npos) return std::nullopt;
  return Span{word.begin, static_cast<std::uint32_t>(next)};
}

}  // namespace yc::json
