// A clean copy of a tree in a folder of its own: no build outputs, nothing ignored, no repository.
#pragma once

#include <functional>
#include <string>

#include "plan/plan.h"
#include "tree/disk_tree.h"

namespace yc {

// Writes every file of `tree` below `folder`, which must be empty. Permissions are those that `modes` knows
// for the file's old path, if it is there: `old_path` maps a path of `tree` to it.
Status write_copy(const TreeReader& tree, const std::string& folder, const DiskTree* modes,
                  const std::function<RelPath(const RelPath&)>& old_path);

// Carries out a plan in such a copy, in which something may have been built since. `planned` is the tree
// after the move. Files that only move keep their times; nothing is recorded.
Status move_in_copy(const Plan& plan, const TreeReader& planned, const std::string& folder);

}  // namespace yc
