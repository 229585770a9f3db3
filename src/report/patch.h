// A plan as a unified diff in git's extended form, which `git apply` takes.
#pragma once

#include <string>

#include "plan/plan.h"
#include "tree/disk_tree.h"

namespace yc::report {

Result<std::string> patch_text(const Plan& plan, const TreeReader& tree);

}  // namespace yc::report
