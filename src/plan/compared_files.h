// Files that a build or a test compares byte by byte with others: what changes in them may make it fail.
#pragma once

#include <vector>

#include "plan/plan.h"

namespace yc {

// A doubt for each file that the plan edits and a command compares.
std::vector<Blocker> edits_of_compared(const ReferenceGraph& graph, const EditMap& edits);

}  // namespace yc
