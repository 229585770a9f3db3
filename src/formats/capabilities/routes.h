// Folders whose files become routes of a site by their names alone: nothing spells them, and outside users
// know them.
#pragma once

#include <string>
#include <vector>

#include "formats/capabilities/companions.h"

namespace yc {

struct RouteFolder {
  RelPath folder;
  RelPath settings;                  // the file that says so
  std::vector<std::string> endings;  // of files that are pages; the longest that fits is cut off
  std::vector<std::string> names;    // if any: only files called so are pages, and their folder is the route
  bool by_default = false;           // `endings` are the tool's own
  bool follows = false;              // the folder goes on being one where it moves
};

class Routes {
 public:
  virtual ~Routes() = default;
  virtual std::vector<RouteFolder> route_folders(const ClaimedTree& before) const = 0;
};

}  // namespace yc
