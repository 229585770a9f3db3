// Indexes of folders that hand on what the modules in them export.
#pragma once

#include <vector>

#include "plan/plan.h"

namespace yc {

struct Indexes {
  FileChanges changes;      // indexes that are made
  std::vector<Edit> edits;  // lines for those that are there
  bool empty() const { return changes.empty() && edits.empty(); }
};

// For each module or stylesheet that goes to a folder of its own name: an index of that folder. For each that
// goes to a folder with an index which does nothing but hand on: one more line in it.
Indexes leave_indexes(const TreeReader& tree, const MoveSet& moves);

}  // namespace yc
