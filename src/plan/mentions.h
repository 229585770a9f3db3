// Mentions: old paths in prose, comments and formats that nobody here reads. They are listed, and rewritten
// only when that is asked for.
#pragma once

#include <vector>

#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

struct Mention {
  RelPath file;
  Span span;
  RelPath named;  // spelled from the root
};

std::vector<Mention> find_mentions(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves);

}  // namespace yc
