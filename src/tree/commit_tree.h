// The files of one commit, as a tree: what a fresh clone would hold.
#pragma once

#include <memory>
#include <mutex>
#include <string>
#include <unordered_map>
#include <vector>

#include "tree/tree_reader.h"

namespace yc {

class Repository;

class CommitTree : public TreeReader {
 public:
  // Of the part of the commit `revision` ("HEAD", a branch, an id …) that the tree at `root` is. Folders of
  // nested repositories are there, but empty.
  static Result<std::unique_ptr<CommitTree>> of(const std::string& root, const std::string& revision);
  ~CommitTree() override;

  const Entry* find(const RelPath& path) const override;
  std::vector<std::string> children(const RelPath& folder) const override;
  const FileList& listing() const override { return files_; }
  Result<Bytes> read(const RelPath& path) const override;

  // The id of a file's content, in hexadecimal; empty if the commit has no such file.
  std::string blob(const RelPath& path) const;
  bool is_nested_repository(const RelPath& path) const;

 private:
  struct Node {
    Entry entry;
    std::string blob;
    bool is_nested = false;
  };
  CommitTree();
  friend struct CommitWalk;

  std::unique_ptr<Repository> repository_;
  std::unordered_map<RelPath, Node> nodes_;
  std::unordered_map<RelPath, std::vector<std::string>> children_;  // sorted
  FileList files_;                                                  // sorted
  mutable std::mutex mutex_;
  mutable std::unordered_map<RelPath, Bytes> contents_;
};

// The id that version control would give these bytes, in hexadecimal.
std::string blob_id(const std::string& bytes);

}  // namespace yc
