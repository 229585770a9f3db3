// Sources that move, and those among them that no module line declares.
#pragma once

#include <set>

#include "formats/capabilities/consequences.h"
#include "formats/rust/rust_crates.h"
#include "tree/moves.h"

namespace yc::rust {

// Moved sources of which it is known who takes them in: modules of crates that are known; what is included as
// text, and declares no module; and what lies below the first source of a crate and nobody takes in.
std::set<RelPath> sources_that_may_move(const ReadTree& tree, const Crates& crates, const MoveSet& moves);

}  // namespace yc::rust
