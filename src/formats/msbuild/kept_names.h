// Names that a project takes from paths: an assembly's from its project file, an embedded resource's from
// its folder. Where such a path changes, the name is written down.
#pragma once

#include <vector>

#include "formats/capabilities/companions.h"
#include "formats/format.h"

namespace yc::msbuild {

std::vector<Proposal> keep_names(const ClaimedTree& before, const MoveSet& moves);

}  // namespace yc::msbuild
