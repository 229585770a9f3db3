// Moves that change the routes of a site.
#pragma once

#include "formats/capabilities/routes.h"
#include "plan/plan.h"

namespace yc {

// The route that a file stands for in one of the folders; empty for none.
std::string route_of(const RouteFolder& folder, const RelPath& path);

// Files whose move would add, take away or rename a route.
std::vector<Blocker> changed_routes(const MoveSet& moves, const std::vector<RouteFolder>& folders);

}  // namespace yc
