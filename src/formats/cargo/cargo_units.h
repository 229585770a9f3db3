// Crates and workspaces as they lie in a tree.
#pragma once

#include <optional>
#include <set>
#include <vector>

#include "formats/capabilities/consequences.h"
#include "formats/cargo/cargo_manifests.h"
#include "formats/format.h"

namespace yc::cargo {

// The manifest of the workspace that a crate belongs to: its own, the one it names, or the nearest above that
// has one and does not exclude it.
std::optional<RelPath> workspace_of(const Manifests& manifests, const RelPath& manifest);

// Crates that lie in a workspace which does not take them in: Cargo refuses to build such. Known by what the
// manifests that were read lead to.
void tell_outsiders(const Reading& in);

// Moved sources of crates that move with their manifests and lose none of their sources; only those that stay
// at the same place in their crate.
std::set<RelPath> sources_of_whole_crates(const TreeReader& tree, const MoveSet& moves);

// Crates that would belong to another workspace, and sources that climb out of a crate that moves.
std::vector<Blocker> crate_consequences(const TreeView& before, const TreeView& planned,
                                        const MoveSet& moves);

}  // namespace yc::cargo
