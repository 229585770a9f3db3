// What formats find by a look at the whole tree.
#pragma once

#include "formats/capabilities/reviews.h"
#include "inspect/inspect.h"

namespace yc {

std::vector<Remark> review(const TreeReader& tree, const ReferenceGraph& graph);
std::vector<Finding> check_reviewed(const TreeReader& tree, const ReferenceGraph& graph);

}  // namespace yc
