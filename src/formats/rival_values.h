// Values that sides of several conditionals give one variable.
#pragma once

#include <string_view>

#include "tree/tree_reader.h"

namespace yc {

// Whether a value could lead somewhere: a word of it is a path from `folder` or one above, the name of a
// folder anywhere in the tree, or put together of other variables.
bool could_lead_somewhere(const TreeReader& tree, const RelPath& folder, std::string_view value);

}  // namespace yc
