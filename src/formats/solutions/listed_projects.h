// One more project in the solutions that list another, or one less.
#pragma once

#include <vector>

#include "base/edit.h"
#include "formats/capabilities/unit_making.h"

namespace yc::solutions {

// Beside the project that it is like, in its virtual folder, built in the same configurations.
std::vector<Edit> list_project(const TreeView& view, const MadeUnit& unit);
// With all that is said of it, in filters too.
std::vector<Edit> unlist_project(const TreeView& view, const RelPath& file);

}  // namespace yc::solutions
