// What leads nowhere, and the file that was most likely meant.
#pragma once

#include "inspect/inspect.h"

namespace yc {

// Ids: dangling, missing-search-root, lost-module.
std::vector<Finding> check_dangling(const TreeReader& tree, const ReferenceGraph& graph);

}  // namespace yc
