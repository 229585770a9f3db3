// Files that move are moved in version control's index too, so that its status shows renames. What else is
// staged or not stays so; edits are not staged. Nested repositories are told where their working trees are.
#pragma once

#include <memory>
#include <string>

#include "carry/journal.h"

namespace yc {

class Repository;

class TrackedFiles {
 public:
  // Of the repository around `root`; without one nothing is tracked.
  TrackedFiles(FileSystem& disk, const std::string& root);
  ~TrackedFiles();
  TrackedFiles(const TrackedFiles&) = delete;
  TrackedFiles& operator=(const TrackedFiles&) = delete;

  // Writes down which of the journal's moving files are tracked; without it the index is left as it is.
  // Failure::unsettled if one is in conflict or another program holds the index.
  Status note(Journal& journal);
  // Both leave alone what is there already, so they can be repeated.
  Status move_forward(const StoredJournal& stored) { return move(stored, true); }
  Status move_back(const StoredJournal& stored) { return move(stored, false); }

 private:
  Status move(const StoredJournal& stored, bool is_forward);
  Result<bool> rewrite(const std::string& draft, const Journal& journal, bool is_forward) const;
  Status put_in_place(const std::string& draft);
  Status set_worktrees(const Journal& journal, bool is_forward) const;

  FileSystem& disk_;
  std::string root_;
  std::unique_ptr<Repository> repository_;
};

}  // namespace yc
