// What moving modules brings about that no path shows: conditions, macros, privacy.
#pragma once

#include <vector>

#include "formats/proposals.h"
#include "formats/rust/rust_crates.h"
#include "model/blocker.h"
#include "tree/moves.h"

namespace yc::rust {

// Modules whose paths users outside of the tree know, and that get others.
std::vector<Notice> public_changes(const Crates& before, const TreeReader& tree, const MoveSet& moves);

// Re-exports that leave modules their old names, where their lines stood.
std::vector<Proposal> names_left(const Crates& before, const TreeReader& tree, const MoveSet& moves);

std::vector<Blocker> module_consequences(const Crates& before, const Crates& planned, const TreeReader& tree,
                                         const MoveSet& moves);

}  // namespace yc::rust
