// Include folders that targets inherit from libraries with an alias (add_library(… ALIAS …)) rather than name
// by paths.
#pragma once

#include <vector>

#include "formats/capabilities/shared_definitions.h"

namespace yc::cmake {

// A folder of another script's target, named by its path, is inherited: where that target is linked already,
// the path goes; where it is an interface library that gives include folders and nothing else, the target
// links its alias instead. Only words that need no evaluation are looked at.
std::vector<SharedDefinitions::Change> share_includes(const ClaimedTree& before);
// Targets name the folders of such interface libraries by their paths again.
std::vector<SharedDefinitions::Change> unshare_includes(const ClaimedTree& before);

}  // namespace yc::cmake
