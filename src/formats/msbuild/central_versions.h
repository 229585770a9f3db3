// Versions of packages that projects ask for: in each, or in one Directory.Packages.props above them
// (MSBuild, "Central Package Management").
#pragma once

#include <vector>

#include "formats/capabilities/shared_definitions.h"

namespace yc::msbuild {

std::vector<SharedDefinitions::Change> share_versions(const ClaimedTree& before);
std::vector<SharedDefinitions::Change> unshare_versions(const ClaimedTree& before);

}  // namespace yc::msbuild
