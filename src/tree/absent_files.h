// Files that version control tracks and that a sparse checkout leaves out of the working tree (the bit
// "skip-worktree" of git's index). They belong to the project: what they hold is in the repository.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "tree/tree_reader.h"

struct git_index;

namespace yc {

struct AbsentFile {
  RelPath path;
  EntryKind kind = EntryKind::file;  // or a link
  std::int64_t mark = 0;             // changes with what it holds
};

// Those of an index below the folder that `prefix` names ("lib/", or empty); some may be on the disk after
// all.
std::vector<AbsentFile> absent_files(git_index* index, const std::string& prefix);

class AbsentContents {
 public:
  // Of the repository around `root` (absolute).
  explicit AbsentContents(const std::string& root);
  ~AbsentContents();
  AbsentContents(const AbsentContents&) = delete;
  AbsentContents& operator=(const AbsentContents&) = delete;

  // What a file or link holds; an error if that is not in the repository, as in a partial clone, or is longer
  // than `limit` bytes. Several threads may ask at once.
  Result<std::string> read(const RelPath& path, std::uint64_t limit) const;
  // Whether it is to be executable once it is checked out.
  bool is_executable(const RelPath& path) const;
  // Where its index is kept (absolute).
  const std::string& index_file() const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace yc
