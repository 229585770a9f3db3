// Whether a script is an ES module or a CommonJS one goes by the nearest package.json above it ("type"),
// where its ending does not say it: https://nodejs.org/api/packages.html#determining-module-system. A move to
// another package may change it, and so may a package.json that comes or goes.
#pragma once

#include "formats/capabilities/consequences.h"

namespace yc::modules {

// Scripts that would be taken for another kind than they are written as, and were not before. One stands for
// all whose kind the same package.json changes.
std::vector<Blocker> changed_module_kinds(const TreeView& before, const TreeView& planned,
                                          const MoveSet& moves);

}  // namespace yc::modules
