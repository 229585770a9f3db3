// The files of a tree, sorted, and the parts of them that readers ask for: a tree of many sources holds few
// scripts and settings, and each of many readers would look at every name to find its own.
#pragma once

#include <string_view>
#include <vector>

#include "base/path.h"

namespace yc {

enum class EntryKind : unsigned char { file, folder, link };

class FileList {
 public:
  // What is no folder, in any order; settle() comes behind the last.
  void add(RelPath path, EntryKind kind);
  void reserve(std::size_t count) { all_.reserve(count); }
  void settle();

  const std::vector<RelPath>& all() const { return all_; }
  const std::vector<RelPath>& links() const { return links_; }
  // All but what is source code of a programming language by its ending.
  const std::vector<RelPath>& beside_sources() const { return beside_sources_; }

 private:
  std::vector<RelPath> all_, links_, beside_sources_;
};

bool is_program_source(std::string_view ending);  // with its dot

}  // namespace yc
