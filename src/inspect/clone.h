// What a fresh clone would lack: references that lead somewhere here, but not in what is committed.
#pragma once

#include <vector>

#include "inspect/inspect.h"
#include "tree/commit_tree.h"

namespace yc {

// `graph` is of the working tree `tree`; `committed` is the commit that a clone would check out. A finding's
// message says what keeps the target out of the clone.
std::vector<Finding> check_clone(const TreeReader& tree, const ReferenceGraph& graph,
                                 const CommitTree& committed);

}  // namespace yc
