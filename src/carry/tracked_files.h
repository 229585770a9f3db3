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
  // Of the repository around the tree; without one nothing is tracked.
  TrackedFiles(FileSystem& disk, const StatePlace& place);
  ~TrackedFiles();
  TrackedFiles(const TrackedFiles&) = delete;
  TrackedFiles& operator=(const TrackedFiles&) = delete;

  // Writes down which of the journal's moving files are tracked; without it the index is left as it is.
  // Failure::unsettled if one is in conflict, another program holds the index, or something moves and the
  // repository or its index is of a kind that cannot be written.
  Status note(Journal& journal);
  // Whether a folder (absolute) lies in the repository's own.
  bool holds(const std::string& folder) const;
  // Both leave alone what is there already, so they can be repeated.
  Status move_forward(const StoredJournal& stored) { return move(stored, true); }
  Status move_back(const StoredJournal& stored) { return move(stored, false); }

 private:
  // A change of version control's own file: what it is to hold, and where that is drawn up.
  struct Draft {
    std::string file, draft;
    std::string before, after;
  };
  Status move(const StoredJournal& stored, bool is_forward);
  Result<std::string> rewritten(const std::string& index, const StoredJournal& stored, bool is_forward) const;
  Status put_in_place(const Draft& draft);
  Status set_worktrees(const StoredJournal& stored, bool is_forward);
  Status replace(const Draft& draft);

  FileSystem& disk_;
  StatePlace place_;
  std::unique_ptr<Repository> repository_;
  std::string problem_;  // why a repository that is there cannot be used
};

}  // namespace yc
