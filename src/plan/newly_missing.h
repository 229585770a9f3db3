// What a construct would ask for in vain once the plan is carried out: an edit that names a file at its new
// place may leave the old name in the list.
#pragma once

#include <vector>

#include "plan/compare.h"
#include "plan/planned_names.h"

namespace yc {

// For each construct that the plan gave another name, and that has more names that lead nowhere than before:
// the reference that led to something by such a name, or else one to what moves, as lost.
std::vector<Mismatch> newly_missing(const ReferenceGraph& before, const ReferenceGraph& after,
                                    const Image& image, const PlannedNames& names, const MoveSet& moves);

}  // namespace yc
