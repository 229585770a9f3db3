// Macros that are seen from where they are defined on, down the order of the module lines (the Rust
// Reference, "Macros By Example", "Scoping, Exporting, and Importing").
#pragma once

#include <vector>

#include "formats/rust/rust_crates.h"
#include "model/blocker.h"
#include "tree/moves.h"

namespace yc::rust {

// Uses of macros that were seen where they stand and would not be any more.
std::vector<Blocker> lost_macros(const Crates& before, const Crates& planned, const MoveSet& moves);

}  // namespace yc::rust
