// Folders whose files become routes of a site by their names alone: nothing spells them, and outside users
// know them.
#pragma once

#include <string>
#include <vector>

#include "plan/plan.h"

namespace yc {

struct RouteFolder {
  RelPath folder;
  RelPath settings;                  // the file that says so
  std::vector<std::string> endings;  // of files that are pages; the longest that fits is cut off
  std::vector<std::string> names;    // if any: only files called so are pages, and their folder is the route
  bool by_default = false;           // `endings` are the tool's own
};

// Those that the configuration of a known tool implies: next.config.*, nuxt.config.*, astro.config.*,
// svelte.config.*.
std::vector<RouteFolder> known_route_folders(const TreeReader& tree);

// The route that a file stands for in one of the folders; empty for none.
std::string route_of(const RouteFolder& folder, const RelPath& path);

// Files whose move would add, take away or rename a route.
std::vector<Blocker> changed_routes(const MoveSet& moves, const std::vector<RouteFolder>& folders);

}  // namespace yc
