// What rehearsed builds say of a plan beyond what was read.
#pragma once

#include <vector>

#include "plan/plan.h"
#include "rehearse/rehearsal.h"

namespace yc {

struct Evidence {
  bool holds = false;  // all builds succeeded after the move, and none that was watched works on other files
  bool observed = false;  // all were watched
  // Of the plan's accepted doubts: those that stand in what a build ran, and the others. Without watching all
  // are among the others.
  std::vector<Blocker> settled, not_exercised;
};

Evidence weigh(const Plan& plan, const std::vector<Rehearsed>& builds);

}  // namespace yc
