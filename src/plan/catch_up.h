// Mending what moves without us left behind.
#pragma once

#include <memory>
#include <vector>

#include "plan/plan.h"

namespace yc {

struct CaughtUp {
  Plan plan;  // verified, in part or not, as make_plan() gives it, by the paths before the moves
  // The same for the tree as it stands: nothing moves, edits are by the paths of now.
  Plan mending;
  std::size_t already = 0;  // references that lead to the new places as they stand
};

// Plans as if `moves` had not been made yet: in a view of `now` in which each file is at its old place. What
// was mended by hand leads to places that do not exist in that view, and is left as it is.
Result<CaughtUp> catch_up(const TreeReader& now, const std::vector<Move>& moves, const PlanOptions& options);

}  // namespace yc
