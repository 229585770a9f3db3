// The tree before a move and after it, beside each other, with lines from where things go to where they come.
#pragma once

#include "plan/plan.h"
#include "report/figures/canvas.h"

namespace yc::report {

Canvas tree_figure(const Plan& plan, const TreeReader& tree);

}  // namespace yc::report
