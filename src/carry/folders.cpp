#include "carry/folders.h"

#include <set>

#include "tree/overlay_tree.h"

namespace yc {

Folders folders_of(const TreeReader& tree, const Plan& plan) {
  const MoveSet& moves = plan.moves;
  OverlayTree after(tree, moves, plan.changes);
  std::set<RelPath> make, gone;
  auto arrives = [&](const RelPath& path) {
    for (RelPath up = path.parent(); !up.is_root() && !tree.is_folder(up); up = up.parent()) make.insert(up);
  };
  auto leaves = [&](const RelPath& path) {
    for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
      if (!after.find(up)) gone.insert(up);
    }
  };
  for (const Move& move : moves.files()) arrives(move.to), leaves(move.from);
  for (const auto& [path, bytes] : plan.changes.made) arrives(path);
  for (const RelPath& path : plan.changes.dropped) leaves(path);
  for (const Move& move : moves.requested()) {
    if (!tree.is_folder(move.from)) continue;
    std::vector<RelPath> stack = {move.from};
    while (!stack.empty()) {
      RelPath folder = stack.back();
      stack.pop_back();
      if (!after.find(folder)) gone.insert(folder);
      for (const std::string& name : tree.children(folder)) {
        if (tree.is_folder(folder / name) && !tree.find(folder / name)->ignored)
          stack.push_back(folder / name);
      }
    }
  }
  Folders out;
  out.made.assign(make.begin(), make.end());
  out.removed.assign(gone.rbegin(), gone.rend());
  return out;
}

}  // namespace yc
