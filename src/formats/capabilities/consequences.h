// What a move brings about that no reference shows.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "formats/proposals.h"

namespace yc {

// What goes wrong when a program runs, though every reference leads where it should.
struct Consequence {
  enum class Bearing : std::uint8_t {
    by_itself,      // told where every reference leads where it should
    tells_why,      // may be why some do not: told in any case
    stands_for_all  // why all that cannot follow cannot: told in the place of those
  };
  std::string id;
  RelPath file;  // in the planned tree
  std::optional<Span> span;
  std::string text, reason, next;
  Bearing bearing = Bearing::by_itself;
};
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
