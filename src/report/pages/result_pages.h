// What a command found or plans, as a page for a browser.
#pragma once

#include <string>
#include <vector>

#include "inspect/folder_links.h"
#include "inspect/inspect.h"
#include "inspect/units.h"
#include "plan/plan.h"
#include "rehearse/rehearsal.h"

namespace yc::report {

// `before` is the graph of the tree as it is, for the figures.
std::string plan_page(const Plan& plan, const TreeReader& tree, const ReferenceGraph& before,
                      const std::string& outcome);
std::string findings_page(const std::vector<Finding>& findings, const TreeReader& tree);
std::string impact_page(const Impact& impact);
// `plan` is null if nothing moves.
std::string rehearsal_page(const std::vector<Rehearsed>& results, const std::vector<Finding>& lacking,
                           const Plan* plan, const TreeReader& tree);

}  // namespace yc::report
