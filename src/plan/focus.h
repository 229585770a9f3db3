// What the reading of sources may confine itself to while a move is planned.
#pragma once

#include "formats/format.h"
#include "tree/moves.h"

namespace yc {

Focus focus_of(const TreeReader& tree, const MoveSet& moves);

// Whether a file moves that tells others where to look. Then nothing can be left out.
bool moves_a_governor(const MoveSet& moves);

}  // namespace yc
