// A tree in memory, for tests and for trees that do not exist yet.
#pragma once

#include <set>
#include <unordered_map>

#include "tree/tree_reader.h"

namespace yc {

class MemoryTree : public TreeReader {
 public:
  MemoryTree() { entries_[RelPath()] = folder_entry(); }
  // Adds or replaces a file; its folders appear with it.
  void write(const RelPath& path, Bytes bytes, Entry entry = {});
  void write(std::string_view path, std::string bytes) {
    write(RelPath::from_normal(std::string(path)), std::make_shared<std::string>(std::move(bytes)));
  }
  void add_folder(const RelPath& path);

  const Entry* find(const RelPath& path) const override;
  std::vector<std::string> children(const RelPath& folder) const override;
  const FileList& listing() const override { return files_; }
  Result<Bytes> read(const RelPath& path) const override;

 private:
  static Entry folder_entry() {
    Entry entry;
    entry.kind = EntryKind::folder;
    return entry;
  }
  std::unordered_map<RelPath, Entry> entries_;
  FileList files_;  // sorted
  std::unordered_map<RelPath, Bytes> contents_;
  std::unordered_map<RelPath, std::set<std::string>> children_;
};

}  // namespace yc
