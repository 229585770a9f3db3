// Commands that hand names on in the order in which the names sort, as "ls a.c b.c | …" and "cat parts/* >
// all" do.
#pragma once

#include <vector>

#include "plan/plan.h"

namespace yc {

// The places where a move would change that order. Which files are named is not looked at here. What a script
// that nobody builds with does so is only worth knowing: `told`.
std::vector<Blocker> changed_orders(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves,
                                    std::vector<Notice>& told);

}  // namespace yc
