// Build units, who uses whom, and what is rebuilt.
#pragma once

#include <optional>

#include "inspect/units.h"
#include "report/figures/canvas.h"

namespace yc::report {

// Units of one folder are one node where there are too many to be read. Nothing if Graphviz's layout is not
// installed.
std::optional<Canvas> unit_figure(const Impact& impact);

}  // namespace yc::report
