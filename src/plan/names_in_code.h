// Names of data that stand in code where nobody here knows their folder: join(folder, "low.txt"), where the
// folder is an argument of the program.
#pragma once

#include <vector>

#include "model/blocker.h"
#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

// A doubt for each source with a string that is the name of data which move, or ends in it, that no reference
// read, and behind which they would not be found any more.
std::vector<Blocker> names_left_in_code(const TreeReader& tree, const ReferenceGraph& graph,
                                        const ReferenceGraph& now, const MoveSet& moves);

}  // namespace yc
