// Carrying out a verified plan, and taking it back.
#pragma once

#include <string>
#include <vector>

#include "carry/file_system.h"
#include "carry/journal.h"
#include "plan/plan.h"
#include "tree/disk_tree.h"

namespace yc {

// Moves and edits the files of `tree` as the plan says. The tree on disk must still be as it was read.
Result<StoredJournal> carry_out(FileSystem& disk, const DiskTree& tree, const Plan& plan,
                                const std::string& state, const std::string& command);

struct Undone {
  StoredJournal journal;
};
// Takes back the latest move that stands. Refuses when a file it touched was changed since.
Result<Undone> undo_latest(FileSystem& disk, const std::string& root, const std::string& state);

}  // namespace yc
