// What the reading of sources may confine itself to while a move is planned.
#pragma once

#include "formats/format.h"
#include "plan/image.h"
#include "tree/moves.h"

namespace yc {

Focus focus_of(const TreeReader& tree, const MoveSet& moves);

// Whether a file moves that tells others where to look. Then nothing can be left out.
bool moves_a_governor(const MoveSet& moves);

// Whether an edit changes what texts of sources begin with that need not be in sight: a constant that stands
// for a folder, in which others find theirs.
bool edits_shared_text(const ReferenceGraph& graph, const EditMap& edits);

}  // namespace yc
