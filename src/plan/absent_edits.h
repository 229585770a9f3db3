// What a plan would change in files that are not on the disk, as a sparse checkout leaves them out.
#pragma once

#include <vector>

#include "plan/plan.h"

namespace yc {

// Tells of each such file, or of the folder that moves with it. Their edits are taken out of the plan: what
// is left may be carried out where a part of a plan is.
std::vector<Blocker> set_absent_apart(const TreeReader& tree, Plan& plan);

}  // namespace yc
