// Projects in property lists (project.pbxproj) with their workspaces, schemes and settings files (.xcconfig).
//
// Paths are glued from the paths of groups: traced text, as in a build script. Another group is proposed
// before another path (Spellings::early_proposals). A project in a bundle counts from the folder around the
// bundle.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> property_lists_format();

}  // namespace yc
