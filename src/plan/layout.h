// What layout rules make of a tree: where everything would go, what has drifted, and which rules a tree
// follows.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "model/graph.h"
#include "plan/layout_rules.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

struct Misplaced {
  RelPath path, place;
  std::string kind;  // that it was judged to be; empty where its rule asks for none
  std::size_t rule = 0;
  bool is_folder = false;
  bool is_taken = false;  // something else is or goes there
};

struct Layout {
  std::vector<Misplaced> misplaced;   // in the order of their paths
  std::vector<std::size_t> in_place;  // by rule, how many are where they belong
  std::vector<Move> moves() const;    // of all whose place is free
  std::size_t in_place_in_all() const;
};

// A folder that a rule places is placed with all that is in it. The first rule that a path falls under
// decides.
Layout lay_out(const TreeReader& tree, const ReferenceGraph& graph, const std::vector<LayoutRule>& rules);

// The same as a move sheet (docs/move-sheet.md).
std::string sheet_of(const Layout& layout, const std::vector<LayoutRule>& rules);

// Rules that a tree follows already, by where most of what is alike lies; the rest is excepted.
std::vector<LayoutRule> learn_layout(const TreeReader& tree, const ReferenceGraph& graph);

}  // namespace yc
