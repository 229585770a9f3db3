// What a move brings about that no reference shows.
#pragma once

#include <vector>

#include "formats/proposals.h"
#include "model/blocker.h"

namespace yc {

// A tree with its graph, before a move or as it is planned.
struct ReadTree {
  const TreeReader& tree;
  const ReferenceGraph& graph;
};
// The same for one format, with the files that it claims.
struct TreeView : ReadTree {
  const std::vector<RelPath>& files;
};

// What a move across the boundaries of units means for their references to each other.
struct BoundaryReport {
  std::vector<Notice> notices;     // which unit each file leaves and joins
  std::vector<Blocker> lacks;      // references that a unit would lack
  std::vector<Proposal> links;     // that add them, with edits of the tree before the move
  std::vector<Blocker> refusals;   // what no reference can mend
  std::vector<Proposal> forwards;  // what to leave at old names, where that is wished for
};

class Consequences {
 public:
  virtual ~Consequences() = default;
  // What the move would bring about that was not so before.
  virtual std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                            const MoveSet& moves) const = 0;
};

class Boundaries {
 public:
  virtual ~Boundaries() = default;
  virtual BoundaryReport boundary_changes(const TreeView& before, const TreeView& planned,
                                          const MoveSet& moves) const = 0;
};

}  // namespace yc
