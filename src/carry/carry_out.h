// Carrying out a verified plan, wholly or not at all.
#pragma once

#include <string>
#include <vector>

#include "carry/journal.h"
#include "plan/plan.h"
#include "tree/disk_tree.h"

namespace yc {

struct CarryOptions {
  std::string command;  // as typed, for the journal
  std::string patch;    // the plan as a diff, kept for `history`
  bool stage = true;    // tracked files move in version control's index too
};

// Moves and edits the files of `tree` as the plan says. The tree on disk must still be as it was read. After
// an error the tree is as it was, unless the error says how to recover.
Result<StoredJournal> carry_out(FileSystem& disk, const DiskTree& tree, const Plan& plan,
                                const StatePlace& place, const CarryOptions& options);

}  // namespace yc
