// What compilers were seen to be told: search roots and working folders, as facts.
#pragma once

#include <memory>
#include <vector>

#include "formats/format.h"
#include "model/graph.h"
#include "observe/observation.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

// The contexts in which sources of the tree were compiled, by the arguments of the compilers (GCC manual,
// "Options for Directory Search"). Null if none was.
std::shared_ptr<const Scopes> observed_contexts(const TreeReader& tree,
                                                const std::vector<Observation>& observations);
// The same after a move. Search roots that scattered stay where they are.
std::shared_ptr<const Scopes> moved_contexts(const std::shared_ptr<const Scopes>& before,
                                             const MoveSet& moves);

// The graph of a tree, with what was observed of it.
ReferenceGraph read_observed(const TreeReader& tree, FactsCache& cache,
                             const std::vector<Observation>& observations);

}  // namespace yc
