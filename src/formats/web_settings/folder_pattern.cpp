#include "formats/web_settings/folder_pattern.h"

#include <algorithm>

#include "tree/tree_reader.h"

namespace yc::web_settings {

namespace {

bool matches(const std::vector<std::string>& parts, std::size_t p, const std::vector<std::string_view>& names,
             std::size_t n) {
  if (p == parts.size()) return true;  // a folder takes in all below it
  if (n == names.size()) return parts[p] == "**" && p + 1 == parts.size();
  if (parts[p] == "**") return matches(parts, p + 1, names, n) || matches(parts, p, names, n + 1);
  return name_matches(parts[p], names[n]) && matches(parts, p + 1, names, n + 1);
}

}  // namespace

FolderPattern::FolderPattern(std::string_view text) {
  if (text.starts_with("./")) text.remove_prefix(2);
  while (text.ends_with("/")) text.remove_suffix(1);
  for (std::size_t at = 0; at <= text.size();) {
    std::size_t end = std::min(text.find('/', at), text.size());
    parts_.emplace_back(text.substr(at, end - at));
    at = end + 1;
  }
  is_all_ = parts_.size() == 1 && (parts_[0] == "." || parts_[0].empty());
}

bool FolderPattern::takes(const RelPath& home, const RelPath& file) const {
  if (!file.is_within(home)) return false;
  if (is_all_) return true;
  // Most patterns begin with the name of a folder, and most files are not in it.
  std::string_view below = file.below(home);
  const std::string& first = parts_[0];
  bool is_plain = !has_wildcard(first);
  bool is_in = below.starts_with(first) && (below.size() == first.size() || below[first.size()] == '/');
  if (is_plain && !is_in) return false;
  if (is_plain && parts_.size() == 1) return true;
  RelPath path = RelPath::from_normal(std::string(below));
  return matches(parts_, 0, path.components(), 0);
}

}  // namespace yc::web_settings
