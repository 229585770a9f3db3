// What builds were seen to read, held against what is known of the tree: a read that no reference explains is
// where the next break would be.
#pragma once

#include <string>
#include <vector>

#include "model/graph.h"
#include "observe/observation.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

struct UnexplainedRead {
  RelPath path;
  std::string program;  // the last part of its path
  std::string command;  // of the first process that read it
  std::string folder;   // it was started in, "." for the root, empty outside of the tree
};

struct Explained {
  std::size_t files = 0;      // of the tree that were read
  std::size_t certain = 0;    // explained by a reference that is certain,
  std::size_t likely = 0;     // by one that is likely,
  std::size_t by_folder = 0;  // by a reference to a folder, which a process was told to look into,
  std::size_t by_name = 0;    // by a name that build tools look for, such as "Makefile"
  std::vector<UnexplainedRead> none;
  std::size_t changed = 0;  // that have changed since they were read, or are gone
};

// Files that are not there any more are only counted.
Explained explain_reads(const TreeReader& tree, const ReferenceGraph& graph,
                        const std::vector<Observation>& observations);

// The moved files that were read and whose reading nothing explains after the move either: no reference leads
// to them, or only one to a folder that they leave.
std::vector<UnexplainedRead> unexplained_moves(const MoveSet& moves, const ReferenceGraph& graph,
                                               const std::vector<Observation>& observations);

}  // namespace yc
