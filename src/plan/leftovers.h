// What a move leaves without use.
#pragma once

#include <vector>

#include "plan/plan_view.h"
#include "plan/rewriter.h"

namespace yc {

// Proposals that take away search roots whose folder is gone, patterns that match nothing any more, and
// detours through a folder that a file has come back to. What the plan's edits have changed already is left.
std::vector<Proposal> leftovers(const PlanView& view, const ReferenceRewriter& rewriter);

// Names that files take from their own paths, and that follow them, and lists that name what is new to them.
// Where files were moved before, only the lists.
std::vector<Proposal> following_names(const PlanView& view, bool moved_already);

}  // namespace yc
