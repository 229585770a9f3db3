// Headers and forms that Qt's generators find by their names and places (see formats/meta_objects.h).
#pragma once

#include <vector>

#include "formats/capabilities/consequences.h"

namespace yc::c_family {

// Those that a move takes away from where they are found, and that no script lists instead.
std::vector<Blocker> lost_qt_inputs(const ReadTree& before, const ReadTree& planned, const MoveSet& moves);

}  // namespace yc::c_family
