// Sources of a crate that may move alone, because what is a module of what stays the same (the Rust
// Reference, "Modules"; the Cargo Book, "Cargo Targets").
#pragma once

#include <set>
#include <vector>

#include "formats/capabilities/companions.h"
#include "model/blocker.h"

namespace yc::cargo {

// Roots of targets that stay in their crate.
std::set<RelPath> sources_that_move_alone(const TreeReader& tree, const MoveSet& moves);

// For roots at the places that Cargo looks in, the `path` that their manifest needs where they leave them, so
// that targets keep their names.
std::vector<Proposal> paths_of_roots(const TreeReader& tree, const MoveSet& moves);

// Sources that would become targets by where they go.
std::vector<Blocker> new_targets(const TreeReader& before, const TreeReader& planned, const MoveSet& moves);

}  // namespace yc::cargo
