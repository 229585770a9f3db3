#include "formats/python/module_spelling.h"

#include <algorithm>

#include "formats/python/python_references.h"

namespace yc::python {

namespace {

bool is_init(const RelPath& path) {
  return path.name() == "__init__.py" || path.name() == "__init__.pyi";
}

// "..units.tide" from a folder; nothing if no dots lead there.
std::optional<std::string> relative_name(const RelPath& folder, const RelPath& place) {
  RelPath up = folder;
  std::string dots = ".";
  while (!place.is_within(up) && !up.is_root()) {
    up = up.parent();
    dots += ".";
  }
  std::string below(place.below(up));
  std::replace(below.begin(), below.end(), '/', '.');
  if (!below.empty() && !is_dotted_name(below)) return std::nullopt;
  return dots + below;
}

}  // namespace

std::optional<RelPath> image_of(const RewriteRequest& need, const RelPath& module) {
  return need.tree.is_folder(module) ? need.moves.map_folder(module)
                                     : std::optional(need.moves.map_file(module));
}

RelPath place_of_module(const RelPath& file) {
  if (is_init(file)) return file.parent();
  std::string_view ending = file.extension();
  if (ending != ".py" && ending != ".pyi") return file;
  return RelPath::from_normal(file.str().substr(0, file.str().size() - ending.size()));
}

std::optional<std::string> spelled(const Manner& manner, const RelPath& folder, const RelPath& file) {
  RelPath place = place_of_module(file);
  return manner.relative ? relative_name(folder, place) : dotted_name(file, manner.root);
}

std::vector<Manner> manners(const RewriteRequest& need, const PythonResolver& resolver, bool was_relative,
                            const std::vector<RelPath>& old_roots) {
  std::vector<Manner> out;
  auto add = [&](const RelPath& root) {
    bool known = std::any_of(out.begin(), out.end(),
                             [&](const Manner& manner) { return !manner.relative && manner.root == root; });
    if (!known) out.push_back({false, root});
  };
  auto image = [&](const RelPath& folder) {
    return folder.is_root() ? folder : need.moves.map_folder(folder).value_or(folder);
  };
  if (was_relative) out.push_back({true, {}});
  for (const RelPath& root : old_roots) add(image(root));
  RelPath user = need.graph.files.path(need.reference.construct.front().file);
  for (const PythonResolver::Root& root : resolver.roots(user)) add(image(root.folder));
  add(need.new_base);
  if (!was_relative) out.push_back({true, {}});
  return out;
}

}  // namespace yc::python
