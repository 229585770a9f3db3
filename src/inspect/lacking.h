// What a tree lacks although no text in it leads nowhere.
#pragma once

#include "inspect/inspect.h"

namespace yc {

// Patterns whose folder is not there, and sources that no unit compiles and whose includes are only guessed.
std::vector<Finding> check_lacking(const TreeReader& tree, const ReferenceGraph& graph);

}  // namespace yc
