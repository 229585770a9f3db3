// What leads nowhere, and the file that was most likely meant.
#pragma once

#include "inspect/inspect.h"

namespace yc {

// Ids: dangling, missing-search-root, lost-module, empty-pattern.
std::vector<Finding> check_dangling(const TreeReader& tree, const ReferenceGraph& graph,
                                    const IsIgnored& is_ignored);

}  // namespace yc
