// Projects in property lists (project.pbxproj) with their workspaces, schemes and settings files (.xcconfig).
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> property_lists_format();

}  // namespace yc
