// Service workers (W3C, "Service Workers", "scope URL"): one serves the pages that lie in its own folder.
#pragma once

#include <vector>

#include "formats/capabilities/consequences.h"
#include "tree/moves.h"

namespace yc::modules {

// Those that go to another folder without their pages.
std::vector<Blocker> moved_service_workers(const ReadTree& before, const MoveSet& moves);

}  // namespace yc::modules
