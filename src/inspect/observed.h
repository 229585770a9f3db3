// Findings of what builds were seen to do.
#pragma once

#include <vector>

#include "inspect/inspect.h"
#include "model/graph.h"
#include "observe/observation.h"

namespace yc {

// A finding for the reads of each program that nothing explains, at the folder that holds them all, and for
// each include that a compiler was seen to find elsewhere than it is said to lead.
std::vector<Finding> check_observed(const TreeReader& tree, const ReferenceGraph& graph,
                                    const std::vector<Observation>& observations);

}  // namespace yc
