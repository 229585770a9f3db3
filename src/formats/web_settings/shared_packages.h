// Packages of one workspace that depend on each other: by the path of a folder, or by the workspace, whose
// list of members is what they share.
#pragma once

#include <vector>

#include "formats/capabilities/shared_definitions.h"

namespace yc::web_settings {

std::vector<SharedDefinitions::Change> share_packages(const ClaimedTree& before);
std::vector<SharedDefinitions::Change> unshare_packages(const ClaimedTree& before);

}  // namespace yc::web_settings
