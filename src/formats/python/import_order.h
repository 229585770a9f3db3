// In which order modules are run when one is imported, and what they ask of each other before it is there.
#pragma once

#include <vector>

#include "formats/capabilities/consequences.h"
#include "formats/format.h"

namespace yc::python {

// Imports that would ask a module for a name that it has not bound yet, if one of the files that move, or one
// that imports them, is imported first; and would not have, before.
std::vector<Blocker> new_import_failures(const TreeView& before, const TreeView& planned,
                                         const MoveSet& moves);

}  // namespace yc::python
