#include "formats/rival_values.h"

#include <algorithm>

#include "base/traced_text.h"

namespace yc {

namespace {

// A file that is there, or one beside it by another ending, as an object's source.
bool is_in_tree(const TreeReader& tree, const RelPath& path) {
  if (path.is_root()) return false;
  if (tree.find(path)) return true;
  RelPath folder = path.parent();
  if (path.extension().empty() || (!folder.is_root() && !tree.is_folder(folder))) return false;
  std::string_view stem = path.name().substr(0, path.name().size() - path.extension().size());
  std::vector<std::string> others = tree.children(folder);
  return std::any_of(others.begin(), others.end(), [&](const std::string& other) {
    return other.size() > stem.size() && other[stem.size()] == '.' && other.starts_with(stem);
  });
}

}  // namespace

bool could_lead_somewhere(const TreeReader& tree, const RelPath& folder, std::string_view value) {
  constexpr std::string_view kBlanks = "; \t\n,'\"";
  constexpr std::size_t kMostWords = 20;
  std::size_t words = 0;
  for (std::size_t at = 0; at < value.size() && words < kMostWords;) {
    std::size_t begin = value.find_first_not_of(kBlanks, at);
    if (begin == std::string_view::npos) return false;
    std::size_t end = std::min(value.find_first_of(kBlanks, begin), value.size());
    std::string_view word = value.substr(begin, end - begin);
    at = end;
    ++words;
    if (word.find_first_of("$\x03") != std::string_view::npos) return true;
    if (word.front() == '-') continue;
    // A script further up may be the one that uses it.
    for (RelPath up = folder;; up = up.parent()) {
      Place place = place_of(up, word);
      if (place.space == Space::tree && is_in_tree(tree, place.path)) return true;
      if (up.is_root()) break;
    }
    if (word.find_first_of("/.") == std::string_view::npos && tree.has_folder_called(std::string(word)))
      return true;
  }
  return false;
}

}  // namespace yc
