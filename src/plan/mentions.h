// Mentions: old paths in prose, comments and formats that nobody here reads. They are listed, never
// rewritten.
#pragma once

#include <vector>

#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

std::vector<Notice> find_mentions(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves);

}  // namespace yc
