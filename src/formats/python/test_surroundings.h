// What pytest gives a file with tests by its place: each conftest.py in its folder and above (pytest
// documentation, "conftest.py: sharing fixtures across multiple files"), and a name for the module that no
// other one may have
// ("import modes").
#pragma once

#include <vector>

#include "formats/capabilities/consequences.h"

namespace yc::python {

// Tests that would have another conftest.py above them than before, where that does something for them; and
// files with tests that would be called like one in another folder, where neither is in a package.
std::vector<Blocker> changed_surroundings(const TreeView& before, const TreeView& planned,
                                          const MoveSet& moves);

}  // namespace yc::python
