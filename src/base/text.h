// What scanners of texts share: classes of characters, parts of a text, its lines.
#pragma once

#include <algorithm>
#include <cctype>
#include <string>
#include <string_view>

#include "base/char_class.h"
#include "base/span.h"

namespace yc {

// Between words of a line.
inline bool is_blank(char c) {
  return c == ' ' || c == '\t' || c == '\r';
}

// The same, and between lines.
inline bool is_space(char c) {
  return is_blank(c) || c == '\n';
}

// ASCII letters in lower case; other bytes as they are.
inline std::string lowered(std::string_view text) {
  std::string out(text);
  std::transform(out.begin(), out.end(), out.begin(),
                 [](unsigned char c) { return static_cast<char>(c < 0x80 ? std::tolower(c) : c); });
  return out;
}

inline std::string_view cut(std::string_view bytes, Span span) {
  return bytes.substr(span.begin, span.size());
}

// The rest of a line's blanks taken off its end, and off its beginning.
inline std::string_view trimmed(std::string_view text, std::string_view blanks = " \t\r\n") {
  std::size_t begin = std::min(text.find_first_not_of(blanks), text.size());
  std::size_t end = text.find_last_not_of(blanks);
  return begin == text.size() ? std::string_view() : text.substr(begin, end + 1 - begin);
}

// Whether a word stands in a text, not as a part of a longer one.
inline bool has_whole_word(std::string_view text, std::string_view word, const CharClass& in_words) {
  for (std::size_t at = text.find(word); at != std::string_view::npos; at = text.find(word, at + 1)) {
    std::size_t end = at + word.size();
    bool begins = at == 0 || !in_words.holds(text[at - 1]);
    if (begins && (end == text.size() || !in_words.holds(text[end]))) return true;
  }
  return false;
}

// Where the line begins that holds the byte at `at`.
inline std::size_t line_begin(std::string_view text, std::size_t at) {
  std::size_t end = at == 0 ? std::string_view::npos : text.rfind('\n', at - 1);
  return end == std::string_view::npos ? 0 : end + 1;
}

// The blanks with which that line begins.
inline std::string_view indent_at(std::string_view text, std::size_t at) {
  std::size_t begin = line_begin(text, at);
  std::size_t end = std::min(text.find_first_not_of(" \t", begin), text.size());
  return text.substr(begin, end - begin);
}

// Behind a comment that begins at `at` ("//" to the end of the line, "/*" to "*/"); `at` itself if none does.
inline std::size_t behind_comment(std::string_view text, std::size_t at) {
  std::string_view mark = text.substr(at, 2);
  if (mark == "//") return std::min(text.find('\n', at), text.size());
  if (mark != "/*") return at;
  std::size_t end = text.find("*/", at + 2);
  return end == std::string_view::npos ? text.size() : end + 2;
}

// Behind all white space and such comments from `at` on.
inline std::size_t behind_space(std::string_view text, std::size_t at) {
  while (at < text.size()) {
    std::size_t next = std::isspace(static_cast<unsigned char>(text[at])) ? at + 1 : behind_comment(text, at);
    if (next == at) break;
    at = next;
  }
  return at;
}

// Calls take(line, begin) for each line, without its end ("\n" or "\r\n").
template <typename Take>
void for_each_line(std::string_view text, const Take& take) {
  for (std::size_t at = 0; at < text.size();) {
    std::size_t end = std::min(text.find('\n', at), text.size());
    std::string_view line = text.substr(at, end - at);
    if (line.ends_with('\r')) line.remove_suffix(1);
    take(line, at);
    at = end + 1;
  }
}

}  // namespace yc
