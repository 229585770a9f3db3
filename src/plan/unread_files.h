// Files of which nobody knows what they name, or how they are built.
#pragma once

#include <vector>

#include "model/blocker.h"
#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

// Files that are not read, or not in full, and could name what moves: garbled ones, scripts that were given
// up, what cannot be opened, and files in languages that no format reads. `unreadable` is what the tree tells
// once all formats have read it.
std::vector<Blocker> unread_files(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves,
                                  const std::vector<RelPath>& unreadable);

}  // namespace yc
