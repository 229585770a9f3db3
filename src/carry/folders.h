// The folders that come and go with a move.
#pragma once

#include <vector>

#include "plan/plan.h"
#include "tree/tree_reader.h"

namespace yc {

struct Folders {
  std::vector<RelPath> made;     // that must be made, parents first
  std::vector<RelPath> removed;  // that the move empties, children first
};
Folders folders_of(const TreeReader& tree, const Plan& plan);

}  // namespace yc
