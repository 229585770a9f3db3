// Moves that would put everything else that a compiler makes into other places.
#pragma once

#include "formats/capabilities/consequences.h"

namespace yc::web_settings {

// A compiler that is told no folder of sources takes the deepest one that holds them all. Names the settings
// whose folder the move changes, while sources stay whose outputs would then lie elsewhere.
std::vector<Blocker> shifted_outputs(const TreeView& before, const TreeView& planned, const MoveSet& moves);

}  // namespace yc::web_settings
