// Files that keep their places while a file that holds for all below its folder comes or goes: a
// package.json, a conftest.py.
#pragma once

#include <string_view>
#include <vector>

#include "tree/moves.h"

namespace yc {

// Of `files` those that do not move and lie below where a file called `name` moves from or to.
std::vector<RelPath> in_changed_scopes(const std::vector<RelPath>& files, const MoveSet& moves,
                                       std::string_view name);

}  // namespace yc
