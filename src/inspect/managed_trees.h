// The tree that a project shows beside the one on disk.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

struct ManagedRow {
  enum class Kind : std::uint8_t {
    same,       // shown where it lies
    elsewhere,  // shown in another folder than the one it lies in
    unlisted,   // on disk, beside others of its kind that are listed
    missing     // listed, and not on disk
  };
  RelPath path;
  std::string shown;  // the folders in which the project shows it, as "App/Views"; empty for its top
  Kind kind = Kind::same;
};

// Of each file that lists members and says where it shows them, all members by their paths.
std::map<RelPath, std::vector<ManagedRow>> managed_trees(const TreeReader& tree, const ReferenceGraph& graph);

}  // namespace yc
