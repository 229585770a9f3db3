// Ways to make references lead where they should, and what they are asked for.
#pragma once

#include <string>
#include <vector>

#include "base/edit.h"
#include "formats/facts_cache.h"
#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

class Memory;  // see format.h

// One way to make references lead where they should: edits that belong together.
struct Proposal {
  std::vector<Edit> edits;
  std::string remark;  // worth telling the user, or empty
};

inline constexpr std::size_t kNoRule = static_cast<std::size_t>(-1);

// A reference that must lead somewhere else, as a format's own strategies see it.
struct RewriteRequest {
  const ReferenceGraph& graph;  // of the tree before the move
  const Reference& reference;
  std::vector<Target> wanted;  // its targets after the move
  RelPath new_base;            // its base after the move
  const TreeReader& tree;      // before the move
  const MoveSet& moves;
  std::size_t alias_from = kNoRule;  // specifiers that would climb so many folders go through an alias
  FactsCache* cache = nullptr;       // of what files say, where one is kept
  // What the format that is asked keeps between requests about the same graph; null where nothing is kept.
  Memory* memory = nullptr;
};

}  // namespace yc
