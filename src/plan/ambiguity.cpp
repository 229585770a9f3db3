#include "plan/ambiguity.h"

#include <fmt/format.h>

#include <set>

namespace yc {

std::vector<Shadowing> shadowed_includes(const TreeReader& tree, const ReferenceGraph& graph) {
  std::set<Shadowing> out;
  for (std::size_t i = 0; i < graph.references.size(); ++i) {
    const Reference& reference = graph.references[i];
    if (reference.role != Role::include || reference.text.has_hole()) continue;
    std::string text = reference.text.text();
    for (const InContext& in : reference.contexts) {
      if (!in.found || in.is_made || in.context == kNoContext) continue;
      std::vector<RelPath> folders;
      if (!reference.is_angled()) folders.push_back(reference.base.folder);
      for (bool quoted_only : {true, false}) {
        for (const SearchRoot& root : graph.contexts[static_cast<std::size_t>(in.context)].roots) {
          if (root.place.space == Space::tree && root.quoted_only == quoted_only &&
              (!quoted_only || !reference.is_angled()))
            folders.push_back(root.place.path);
        }
      }
      bool reached = false;
      for (const RelPath& folder : folders) {
        auto path = RelPath::resolve(folder, text);
        if (!path || !tree.is_file(*path)) continue;
        if (reached && *path != in.target)
          out.insert({static_cast<std::int32_t>(i), in.target, std::move(*path)});
        else
          reached = reached || *path == in.target;
      }
    }
  }
  return {out.begin(), out.end()};
}

std::string clash_text(const ObjectClash& clash) {
  std::string from;
  for (const RelPath& source : clash.sources) {
    bool is_last = source == *clash.sources.rbegin();
    from += (from.empty() ? "" : is_last ? " and from " : ", from ") + source.str();
  }
  return fmt::format("{} would be made from {}", clash.object, from);
}

}  // namespace yc
