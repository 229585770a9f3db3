// Plans that are made to be looked at only, and figures as files.
#pragma once

#include <string>

#include "cli/session.h"
#include "plan/plan.h"
#include "report/figures/canvas.h"

namespace yc::cli {

// Nothing stands in the way of such a plan but what cannot be done at all.
Plan planned_to_look(const Session& session, MoveSet moves);
// As SVG or PNG, as the ending of the file says.
Status write_figure(const std::string& file, const report::Canvas& figure);
Error no_layout(const std::string& file);  // of Graphviz

}  // namespace yc::cli
