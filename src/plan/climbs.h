// Texts that climb out of a folder: "src/../core/a.c" leads nowhere where there is no src, though its parts
// taken together name a file.
#pragma once

#include <optional>
#include <string_view>
#include <vector>

#include "model/blocker.h"
#include "plan/plan_view.h"

namespace yc {

// The first folder that a text climbs out of, from a folder of the tree, and that is not there.
std::optional<RelPath> missing_on_the_way(const TreeReader& tree, const RelPath& base, std::string_view text);

// Writes a text that climbs out of a folder which is gone in the planned tree without that detour, where the
// text is all in one place: "src/../inc" as "inc". Nothing if it need not be, or cannot.
std::optional<Proposal> straight_way(const PlanView& view, const Reference& reference);

// References of the planned tree that climb out of a folder which the move takes away.
std::vector<Blocker> lost_ways(const PlanView& view);

}  // namespace yc
