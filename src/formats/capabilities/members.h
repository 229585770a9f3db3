// Files that others are found through: projects that list members, and settings that say where to look.
#pragma once

#include <vector>

#include "base/edit.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

// Projects that list their members one by one.
class MemberLists {
 public:
  virtual ~MemberLists() = default;
  // Edits that have a project list a file as it lists the target of `like`, and that take a member out.
  virtual std::vector<Edit> list_member(const ReferenceGraph& graph, const Reference& like,
                                        const RelPath& path, const TreeReader& tree) const = 0;
  virtual std::vector<Edit> unlist_member(const ReferenceGraph& graph, const Reference& member,
                                          const TreeReader& tree) const = 0;
};

// Offered by languages whose tools know no case of letters in paths.
class IgnoresCase {
 public:
  virtual ~IgnoresCase() = default;
};

// Offered by formats that read all that the files which they claim may name, also where these are on a list
// of what nobody reads.
class ReadsWhole {
 public:
  virtual ~ReadsWhole() = default;
};

class DefinesScope {
 public:
  virtual ~DefinesScope() = default;
  // Whether other files' references are looked up elsewhere once this file moves.
  virtual bool defines_scope(const RelPath& path) const = 0;
};

}  // namespace yc
