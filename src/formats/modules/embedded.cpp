#include "formats/modules/embedded.h"

#include <algorithm>
#include <cctype>

namespace yc::modules {

namespace {

// Where `word`, in lower case, stands next, whatever case the text has.
std::size_t find_tag(std::string_view bytes, std::string_view word, std::size_t from) {
  auto same = [](char a, char b) { return std::tolower(static_cast<unsigned char>(a)) == b; };
  auto at = std::search(bytes.begin() + static_cast<std::ptrdiff_t>(std::min(from, bytes.size())),
                        bytes.end(), word.begin(), word.end(), same);
  return at == bytes.end() ? std::string_view::npos : static_cast<std::size_t>(at - bytes.begin());
}

}  // namespace

bool holds_scripts(const RelPath& path) {
  std::string_view ending = path.extension();
  return ending == ".vue" || ending == ".svelte" || ending == ".html" || ending == ".htm";
}

ModuleFacts scan_embedded(std::string_view bytes) {
  // Everything but the scripts is blanked, so that offsets stay as they are.
  std::string text(bytes.size(), ' ');
  std::size_t at = 0;
  bool typed = false, any = false;
  while (true) {
    at = find_tag(bytes, "<script", at);
    if (at == std::string_view::npos) break;
    std::size_t open = bytes.find('>', at);
    if (open == std::string_view::npos) break;
    std::string_view tag = bytes.substr(at, open - at);
    std::size_t close = std::min(find_tag(bytes, "</script", open), bytes.size());
    bool is_data =
        tag.find("json") != std::string_view::npos || tag.find("importmap") != std::string_view::npos ||
        tag.find("text/template") != std::string_view::npos || tag.find("x-") != std::string_view::npos;
    typed = typed || tag.find("lang=\"ts") != std::string_view::npos ||
            tag.find("lang='ts") != std::string_view::npos;
    if (!is_data && !tag.ends_with("/")) {
      std::copy(bytes.begin() + static_cast<std::ptrdiff_t>(open) + 1,
                bytes.begin() + static_cast<std::ptrdiff_t>(close),
                text.begin() + static_cast<std::ptrdiff_t>(open) + 1);
      if (close < text.size()) text[close] = ';';
      any = true;
    }
    at = close;
  }
  return any ? scan_module(text, typed ? Dialect::typed : Dialect::script) : ModuleFacts{};
}

}  // namespace yc::modules
