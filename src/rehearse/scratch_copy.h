// A clean copy of a tree in a folder of its own: no build outputs, nothing ignored, no repository.
#pragma once

#include <functional>
#include <string>

#include "plan/plan.h"
#include "tree/disk_tree.h"

namespace yc {

// What a copy takes over from the disk. Times matter: what a build made once and is kept in the tree must not
// seem older than what it was made of.
struct CopyFrom {
  const DiskTree* disk = nullptr;                   // permissions and times; null for none
  std::function<RelPath(const RelPath&)> old_path;  // of a path of the tree that is copied, on that disk
  std::function<bool(const RelPath&)> is_as_it_was =
      {};  // whether a file keeps its time; none does if this is empty
};

// Writes every file of `tree` below `folder`, which must be empty.
Status write_copy(const TreeReader& tree, const std::string& folder, const CopyFrom& from);

// Carries out a plan in such a copy, in which something may have been built since. `planned` is the tree
// after the move. Files that only move keep their times; nothing is recorded.
Status move_in_copy(const Plan& plan, const TreeReader& planned, const std::string& folder);

}  // namespace yc
