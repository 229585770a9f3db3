#include "formats/containers/container_tree.h"

#include <algorithm>
#include <set>

namespace yc::containers {

ContainerTree::ContainerTree(const TreeReader& tree, const RelPath& context, const std::vector<Copy>& copies)
    : tree_(tree), context_(context) {
  folder_.kind = EntryKind::folder;
  for (const Copy& copy : copies) add(copy);
}

void ContainerTree::add(const Copy& copy) {
  RelPath to = RelPath::from_normal(copy.to);
  for (const std::string& text : copy.sources) {
    std::string plain = text.substr(std::min(text.find_first_not_of('/'), text.size()));
    std::vector<RelPath> sources;
    if (has_wildcard(plain)) {
      sources = match_paths(tree_, context_, plain);
    } else if (auto place = RelPath::resolve(context_, plain.empty() ? "." : plain)) {
      sources = {*place};
    }
    for (const RelPath& source : sources) {
      const Entry* entry = source.is_root() ? nullptr : tree_.find(source);
      bool is_folder = source.is_root() || tree_.is_folder(source);
      if (!is_folder && !entry) continue;
      // A folder that something was copied into is there.
      bool is_into = copy.is_into || has_wildcard(plain) || find(to);
      placed_.push_back({!is_folder && is_into ? to / source.name() : to, source});
    }
  }
}

std::optional<RelPath> ContainerTree::source_of(const RelPath& path) const {
  for (auto placed = placed_.rbegin(); placed != placed_.rend(); ++placed) {
    if (!path.is_within(placed->path)) continue;
    std::string_view below = path == placed->path ? std::string_view() : path.below(placed->path);
    RelPath source = below.empty() ? placed->source : placed->source / below;
    const Entry* entry = source.is_root() ? nullptr : tree_.find(source);
    if (source.is_root() || (entry && !entry->ignored)) return source;
  }
  return std::nullopt;
}

const Entry* ContainerTree::find(const RelPath& path) const {
  if (path.is_root()) return &folder_;
  if (auto source = source_of(path)) return source->is_root() ? &folder_ : tree_.find(*source);
  bool is_above = std::any_of(placed_.begin(), placed_.end(), [&](const Placed& placed) {
    return placed.path != path && placed.path.is_within(path);
  });
  return is_above ? &folder_ : nullptr;
}

std::vector<std::string> ContainerTree::children(const RelPath& folder) const {
  std::set<std::string> out;
  for (const Placed& placed : placed_) {
    if (folder.is_within(placed.path)) {
      RelPath source = folder == placed.path ? placed.source : placed.source / folder.below(placed.path);
      for (std::string& name : tree_.children(source)) out.insert(std::move(name));
    } else if (placed.path.is_within(folder)) {
      std::string_view below = placed.path.below(folder);
      out.emplace(below.substr(0, below.find('/')));
    }
  }
  return {out.begin(), out.end()};
}

Result<Bytes> ContainerTree::read(const RelPath& path) const {
  return tree_.read(source_of(path).value_or(path));
}

}  // namespace yc::containers
