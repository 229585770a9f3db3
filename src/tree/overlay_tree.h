// The planned tree: another tree with files moved and edited on top, all in memory.
#pragma once

#include <map>
#include <mutex>
#include <set>
#include <unordered_map>
#include <unordered_set>

#include "base/edit.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

// Files that a plan makes, with their bytes, and files that it takes away; both are none that move.
struct FileChanges {
  std::map<RelPath, std::string> made;
  std::set<RelPath> dropped;
  std::map<RelPath, RelPath> stand_ins;  // of `made`: files that lead on, and to which one they do
  bool empty() const { return made.empty() && dropped.empty(); }
};

class OverlayTree : public TreeReader {
 public:
  // `base` and `moves` must outlive the overlay.
  OverlayTree(const TreeReader& base, const MoveSet& moves, const FileChanges& changes = {});
  // Sets the edits, keyed by the path before the move; what was set earlier is forgotten.
  void set_edits(const std::unordered_map<RelPath, FileEdits>* edits) { edits_ = edits; }

  const Entry* find(const RelPath& path) const override;
  std::vector<std::string> children(const RelPath& folder) const override;
  const FileList& listing() const override;
  Result<Bytes> read(const RelPath& path) const override;

 private:
  const TreeReader& base_;
  mutable std::once_flag listed_;
  mutable FileList files_;  // put together when somebody asks for it
  const MoveSet& moves_;
  const std::unordered_map<RelPath, FileEdits>* edits_ = nullptr;
  void add(const RelPath& path, const Entry& entry);
  void list() const;

  // Contents with the edits they were made by: whoever reads a file again gets the same bytes, by which
  // readers know what they have read.
  struct Edited {
    std::vector<FileEdits::Item> items;
    Bytes bytes;
  };
  mutable std::mutex edited_mutex_;
  mutable std::unordered_map<RelPath, Edited> edited_;
  std::unordered_map<RelPath, Bytes> made_;
  std::unordered_map<RelPath, Entry> added_;
  std::unordered_set<RelPath> gone_;
  std::unordered_map<RelPath, std::set<std::string>> added_names_;
};

}  // namespace yc
