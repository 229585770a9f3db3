#include "formats/published_files.h"

#include <algorithm>

namespace yc {

std::optional<Published> published_by(const TreeReader& tree, const RelPath& package,
                                      const std::string& word) {
  Published out;
  std::string text = word.substr(0, word.find_last_not_of('/') + 1);
  std::size_t deep = text.find("/**");
  std::string head(text, 0, std::min(deep, text.size()));
  out.head = head.size();
  auto place = RelPath::resolve(package, head);
  if (!place || place->is_root() || *place == package) return std::nullopt;
  if (deep != std::string::npos) {
    // Of what stands behind the stars only a name is understood.
    std::string_view rest = std::string_view(text).substr(deep + 3);
    bool is_name = rest.empty() || (rest.front() == '/' && rest.find('/', 1) == rest.npos);
    if (has_wildcard(head) || !is_name || rest.find("**") != rest.npos) return std::nullopt;
    if (rest.size() > 1) out.names = std::string(rest.substr(1));
    out.is_deep = true;
  } else if (!has_wildcard(head)) {
    if (tree.is_editable(*place)) {
      out.is_pattern = false;
      out.files = {*place};
      return out;
    }
    if (!tree.is_folder(*place)) return std::nullopt;
    out.is_deep = true;
  }
  out.files = out.is_deep ? match_deep(tree, package, std::string(head).append("/").append(out.names))
                          : match_paths(tree, package, head);
  std::erase_if(out.files, [&](const RelPath& file) {
    const Entry* entry = tree.find(file);
    return entry->kind == EntryKind::folder || entry->ignored;
  });
  return out.files.empty() ? std::nullopt : std::optional(std::move(out));
}

}  // namespace yc
