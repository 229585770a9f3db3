// Headers that stand in for the system's: a folder that is searched holds "linux/prctl.h". Headers of the
// system may include them by that name, which no text of the tree shows.
#pragma once

#include <vector>

#include "formats/capabilities/consequences.h"
#include "tree/moves.h"

namespace yc::c_family {

// Headers that would cease to be found by such a name, or begin to be.
std::vector<Blocker> changed_system_headers(const ReadTree& before, const ReadTree& planned,
                                            const MoveSet& moves);

}  // namespace yc::c_family
