// How far a tree has drifted from its layout rules.
#pragma once

#include "plan/layout.h"
#include "report/figures/canvas.h"

namespace yc::report {

// A bar for each rule: what is where it belongs, and what is not; then where that is.
Canvas layout_figure(const Layout& layout, const std::vector<LayoutRule>& rules);

}  // namespace yc::report
