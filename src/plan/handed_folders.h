// Data in folders that a script hands to a program: which of them it opens there, only the program knows.
#pragma once

#include <vector>

#include "model/blocker.h"
#include "model/graph.h"
#include "plan/plan.h"

namespace yc {

// A doubt for each such folder that would not hold a file by the same path any more.
std::vector<Blocker> changed_handed_folders(const TreeReader& tree, const ReferenceGraph& graph,
                                            const MoveSet& moves);

// Whether a reference stands where commands are written: in a build script, a shell script, a pipeline.
bool stands_in_commands(const Reference& reference);

}  // namespace yc
