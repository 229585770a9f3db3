#include "formats/pages/template_tags.h"
#include "words/pages.h"

#include <cctype>
#include <string>

namespace yc::pages {

namespace {

bool is_word_char(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) || c == '_';
}

// The first quoted text at or behind `at`, before `end`; no hole of the engine's own may be in it.
bool quoted_text(std::string_view bytes, std::size_t at, std::size_t end, Span& out) {
  std::size_t open = bytes.find_first_of("\"'", at);
  if (open == std::string_view::npos || open >= end) return false;
  std::size_t close = bytes.find(bytes[open], open + 1);
  if (close == std::string_view::npos || close >= end || close == open + 1) return false;
  out = span_of(open + 1, close);
  return bytes.substr(out.begin, out.size()).find_first_of("\n{}<>$#\\") == std::string_view::npos;
}

}  // namespace

std::vector<TemplateName> template_names(std::string_view bytes) {
  std::vector<TemplateName> out;
  for (auto [open, close] : {std::pair<std::string_view, std::string_view>{"{%", "%}"}, {"<%", "%>"}}) {
    bool calls = open == "<%";
    for (std::size_t at = bytes.find(open); at != std::string_view::npos; at = bytes.find(open, at)) {
      std::size_t end = bytes.find(close, at);
      if (end == std::string_view::npos) break;
      at += open.size();
      while (at < end && !is_word_char(bytes[at])) ++at;
      std::size_t word = at;
      while (at < end && is_word_char(bytes[at])) ++at;
      std::string_view name = bytes.substr(word, at - word);
      TemplateName found;
      found.from_own = calls;
      bool is_name = calls ? name == "include" : words::pages::template_tags().contains(name);
      if (is_name && quoted_text(bytes, at, end, found.span)) out.push_back(found);
      at = end;
    }
  }
  return out;
}

}  // namespace yc::pages
