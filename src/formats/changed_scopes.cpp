#include "formats/changed_scopes.h"

#include <unordered_set>

namespace yc {

std::vector<RelPath> in_changed_scopes(const std::vector<RelPath>& files, const MoveSet& moves,
                                       std::string_view name) {
  std::unordered_set<RelPath> folders;
  for (const Move& move : moves.files()) {
    if (move.from.name() == name) folders.insert(move.from.parent());
    if (move.to.name() == name) folders.insert(move.to.parent());
  }
  std::vector<RelPath> out;
  if (folders.empty()) return out;
  auto is_below = [&](const RelPath& path) {
    for (RelPath up = path.parent();; up = up.parent()) {
      if (folders.contains(up)) return true;
      if (up.is_root()) return false;
    }
  };
  for (const RelPath& path : files) {
    if (!moves.moves(path) && is_below(path)) out.push_back(path);
  }
  return out;
}

}  // namespace yc
