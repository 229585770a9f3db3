// The move itself: a map from old paths to new ones, the identity for all that stays.
#pragma once

#include <optional>
#include <unordered_map>
#include <vector>

#include "base/path.h"
#include "base/result.h"
#include "tree/tree_reader.h"

namespace yc {

// One requested move, both sides full paths from the root. `from` may be a file or a folder.
struct Move {
  RelPath from;
  RelPath to;
  auto operator<=>(const Move&) const = default;
};

class MoveSet {
 public:
  MoveSet() = default;
  // Expands folders to their files and checks the request against the tree: sources exist, targets are free
  // or leave in the same set and are no place of version control or of our own, no two files meet, no folder
  // enters itself, nothing guarded or ignored is named.
  static Result<MoveSet> make(const TreeReader& tree, std::vector<Move> requested);
  // Moves nothing: each `from`, a file that goes, is taken for the file `to` that stays.
  static MoveSet merging(const std::vector<Move>& pairs);

  const std::vector<Move>& requested() const { return requested_; }
  // Files that change their path, sorted by old path.
  const std::vector<Move>& files() const { return files_; }
  // Files that give place to one that is there already: see merging().
  const std::vector<Move>& merged() const { return merged_; }
  bool empty() const { return files_.empty() && requested_.empty(); }
  bool moves(const RelPath& old_file) const { return forward_.contains(old_file); }
  RelPath map_file(const RelPath& old_file) const;
  // Where a folder went as a whole: itself if part of it stays, nothing if its files scattered.
  std::optional<RelPath> map_folder(const RelPath& old_folder) const;
  // Folders that lost a file, and where they went: see map_folder.
  const std::unordered_map<RelPath, std::optional<RelPath>>& folders() const { return folders_; }
  // The file's old path, given its new one.
  RelPath unmap_file(const RelPath& new_file) const;
  // Folders of nested repositories (submodules) that move whole. Their `.git` file is none of files().
  const std::vector<Move>& nested() const { return nested_; }
  // Ignored files that stay behind in folders that move.
  const std::vector<RelPath>& left_behind() const { return left_behind_; }

 private:
  Status add(const TreeReader& tree, const Move& move);
  Status check_target(const TreeReader& tree, const Move& move) const;
  std::optional<RelPath> taken_along(const TreeReader& tree, const RelPath& folder) const;
  void map_folders(const TreeReader& tree);

  std::vector<Move> requested_;
  std::vector<Move> files_;
  std::unordered_map<RelPath, RelPath> forward_;
  std::unordered_map<RelPath, RelPath> backward_;
  std::unordered_map<RelPath, std::optional<RelPath>> folders_;  // only those that lose a file
  std::vector<RelPath> left_behind_;
  std::vector<Move> nested_;
  std::vector<Move> merged_;
};

}  // namespace yc
