// What a move brings about that no reference shows.
#pragma once

#include <string>
#include <vector>

#include "formats/proposals.h"

namespace yc {

// What goes wrong when a program runs, though every reference leads where it should.
struct Consequence {
  std::string id;
  RelPath file;  // in the planned tree
  Span span;
  std::string text, reason, next;
};
// A tree with its graph, before a move and as it is planned.
struct TreeView {
  const TreeReader& tree;
  const ReferenceGraph& graph;
};

// What a move across the boundaries of units means for their references to each other.
struct BoundaryReport {
  std::vector<Notice> notices;        // which unit each file leaves and joins
  std::vector<Consequence> lacks;     // references that a unit would lack
  std::vector<Proposal> links;        // that add them, with edits of the tree before the move
  std::vector<Consequence> refusals;  // what no reference can mend
};

class Consequences {
 public:
  virtual ~Consequences() = default;
  // What the move would bring about that was not so before.
  virtual std::vector<Consequence> consequences(const TreeView& before, const TreeView& planned,
                                                const MoveSet& moves) const = 0;
};

class Boundaries {
 public:
  virtual ~Boundaries() = default;
  virtual BoundaryReport boundary_changes(const TreeView& before, const TreeView& planned,
                                          const MoveSet& moves) const = 0;
};

}  // namespace yc
