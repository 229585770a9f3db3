// Sources of a crate that may move alone, because what is a module of what stays the same (the Rust
// Reference, "Modules"; the Cargo Book, "Cargo Targets").
#pragma once

#include <set>
#include <vector>

#include "formats/capabilities/companions.h"

namespace yc::cargo {

// Modules that go from a.rs to a/mod.rs or back, and roots of a library or a program that get another name in
// their folder. Nothing that is named by #[path] or include!.
std::set<RelPath> sources_that_move_alone(const TreeReader& tree, const MoveSet& moves);

// For roots at the places that Cargo looks in, the `path` that their manifest needs where they leave them.
std::vector<Proposal> paths_of_roots(const TreeReader& tree, const MoveSet& moves);

}  // namespace yc::cargo
