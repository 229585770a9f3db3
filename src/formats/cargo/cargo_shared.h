// Dependencies of crates that are inherited from their workspace (the Cargo Book, "Workspaces", "The
// dependencies table").
#pragma once

#include <vector>

#include "formats/capabilities/shared_definitions.h"

namespace yc::cargo {

// What at least one crate names by its path, or two by the same version, is defined at the top.
std::vector<SharedDefinitions::Change> share_dependencies(const ClaimedTree& before);
std::vector<SharedDefinitions::Change> unshare_dependencies(const ClaimedTree& before);

}  // namespace yc::cargo
