// The files of a tree, sorted, and the links among them.
#pragma once

#include <vector>

#include "base/path.h"

namespace yc {

enum class EntryKind : unsigned char { file, folder, link };

class FileList {
 public:
  // What is no folder, in any order; settle() comes behind the last.
  void add(RelPath path, EntryKind kind);
  // A file or folder that is ignored in a folder that is not.
  void add_ignored(RelPath path) { ignored_.push_back(std::move(path)); }
  void reserve(std::size_t count) { all_.reserve(count); }
  void settle();

  const std::vector<RelPath>& all() const { return all_; }
  const std::vector<RelPath>& links() const { return links_; }
  // What lies in an ignored folder is left out.
  const std::vector<RelPath>& ignored() const { return ignored_; }

 private:
  std::vector<RelPath> all_, links_, ignored_;
};

}  // namespace yc
