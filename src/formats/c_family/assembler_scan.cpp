#include "formats/c_family/assembler_scan.h"

#include "base/text.h"

namespace yc::c_family {

namespace {

struct Directive {
  std::string_view word;
  bool data;
};
constexpr Directive kDirectives[] = {
    {".include", false}, {".incbin", true}, {"%include", false}, {"incbin", true}};

// The directive that begins at `at`, with the place behind its word; null if none does.
const Directive* directive_at(std::string_view bytes, std::size_t at, std::size_t& end) {
  for (const Directive& known : kDirectives) {
    std::string_view word = bytes.substr(at, known.word.size());
    bool same = word.size() == known.word.size();
    for (std::size_t i = 0; same && i < word.size(); ++i) {
      char lower = word[i] >= 'A' && word[i] <= 'Z' ? static_cast<char>(word[i] - 'A' + 'a') : word[i];
      same = lower == known.word[i];
    }
    end = at + known.word.size();
    if (same && end < bytes.size() && (is_blank(bytes[end]) || bytes[end] == '"' || bytes[end] == '\''))
      return &known;
  }
  return nullptr;
}

}  // namespace

bool is_assembler(std::string_view name) {
  for (std::string_view ending : {".s", ".S", ".asm", ".nasm", ".sx"}) {
    if (name.ends_with(ending)) return true;
  }
  return false;
}

void scan_assembler(std::string_view bytes, std::vector<Include>& out) {
  // Every directive has one of these in it, and most sources have none.
  if (bytes.find("include") == std::string_view::npos && bytes.find("incbin") == std::string_view::npos &&
      bytes.find("INCLUDE") == std::string_view::npos && bytes.find("INCBIN") == std::string_view::npos)
    return;
  for (std::size_t line = 0; line < bytes.size();) {
    std::size_t end = std::min(bytes.find('\n', line), bytes.size());
    std::size_t at = line;
    while (at < end && is_blank(bytes[at])) ++at;
    std::size_t behind = 0;
    if (const Directive* found = directive_at(bytes.substr(0, end), at, behind)) {
      while (behind < end && is_blank(bytes[behind])) ++behind;
      char quote = behind < end ? bytes[behind] : ' ';
      std::size_t close =
          quote == '"' || quote == '\'' ? bytes.find(quote, behind + 1) : std::string_view::npos;
      if (close < end && close > behind + 1) {
        Include include;
        include.form = Include::Form::searched;
        include.data = found->data;
        include.text = bytes.substr(behind + 1, close - behind - 1);
        include.span = span_of(behind + 1, close);
        include.line_start = static_cast<std::uint32_t>(at);
        out.push_back(std::move(include));
      }
    }
    line = end + 1;
  }
}

void scan_inline_assembler(std::string_view text, std::size_t begin, std::vector<Include>& out) {
  for (const Directive& known : kDirectives) {
    if (known.word.front() != '.') continue;
    for (std::size_t at = 0; (at = text.find(known.word, at)) != std::string_view::npos; ++at) {
      std::size_t open = text.find_first_not_of(" \t", at + known.word.size());
      if (open == std::string_view::npos || text.substr(open, 2) != "\\\"") continue;
      std::size_t close = text.find("\\\"", open + 2);
      if (close == std::string_view::npos || close == open + 2) continue;
      Include include;
      include.form = Include::Form::searched;
      include.data = known.data;
      include.text = text.substr(open + 2, close - open - 2);
      include.span = span_of(begin + open + 2, begin + close);
      include.line_start = static_cast<std::uint32_t>(begin + at);
      out.push_back(std::move(include));
    }
  }
}

}  // namespace yc::c_family
