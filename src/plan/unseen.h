// Texts with a part that evaluation cannot know, which could spell a path that moves.
#pragma once

#include <vector>

#include "plan/plan.h"

namespace yc {

std::vector<Unsettled> unseen_references(const ReferenceGraph& graph, const MoveSet& moves);

}  // namespace yc
