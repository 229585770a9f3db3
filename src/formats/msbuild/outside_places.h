// Paths of projects that climb out of the tree, as to a library that is checked out beside it.
#pragma once

#include <vector>

#include "formats/capabilities/companions.h"
#include "formats/format.h"

namespace yc::msbuild {

// Respells them in projects that move, and in files that all the projects which import them find them from
// as deep a folder as each other, before and after.
std::vector<Proposal> follow_outside(const ClaimedTree& before, const MoveSet& moves);

// Imported files that name such paths for projects of which only some go deeper or less deep.
std::vector<Notice> torn_outside(const ClaimedTree& before, const MoveSet& moves);

}  // namespace yc::msbuild
