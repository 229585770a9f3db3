// What the paths in a file are relative to, where nothing says so.
#pragma once

#include <string>
#include <unordered_map>
#include <vector>

#include "tree/tree_reader.h"

namespace yc::data_files {

// The files of a tree by their names.
class NameIndex {
 public:
  explicit NameIndex(const TreeReader& tree);
  // Folders from which a path would lead to something.
  std::vector<RelPath> bases_of(const std::string& path) const;

 private:
  std::unordered_map<std::string, std::vector<RelPath>> by_name_;
};

// Whether a value could be a path at all: it has a folder or an ending, and is no address, sentence or
// pattern.
bool looks_like_path(const std::string& text);

// The folders that some paths of a file fit, the one that most do first; of equals the file's own folder,
// then the nearest above it. One elsewhere needs two witnesses.
std::vector<RelPath> learn_bases(const TreeReader& tree, const NameIndex& index, const RelPath& file,
                                 const std::vector<std::string>& paths);

}  // namespace yc::data_files
