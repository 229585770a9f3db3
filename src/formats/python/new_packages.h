// Folders that become packages because modules move into them.
#pragma once

#include <map>
#include <string>

#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc::python {

// An empty "__init__.py" for each new folder that modules of a package go to, or that lies beside packages: a
// project that has packages wants its tools to find all of them.
std::map<RelPath, std::string> needed_packages(const TreeReader& tree, const MoveSet& moves);

}  // namespace yc::python
