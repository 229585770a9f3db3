// Includes that scripts write into sources which they make: "echo '#include \"gauge.h\"' > version.c".
#pragma once

#include <vector>

#include "model/blocker.h"
#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

// A doubt for each script that holds such an include of a header that moves, in words that no reader knows,
// where no folder that compilers search leads to its new place.
std::vector<Blocker> written_includes(const TreeReader& tree, const ReferenceGraph& graph,
                                      const MoveSet& moves);

}  // namespace yc
