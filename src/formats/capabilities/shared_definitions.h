// Dependencies that several units name each for itself, or inherit from one definition at the top.
#pragma once

#include <vector>

#include "formats/capabilities/companions.h"

namespace yc {

class SharedDefinitions {
 public:
  virtual ~SharedDefinitions() = default;
  struct Change {
    std::vector<Edit> edits;
    std::map<RelPath, std::string> made = {};  // files that are not there yet, with their bytes
    std::vector<RelPath> dropped = {};         // files that say nothing any more
  };
  // Has units inherit what they depend on; each change stands for itself. What units say differently is left.
  virtual std::vector<Change> share(const ClaimedTree& before) const = 0;
  // The same back: each unit names it for itself.
  virtual std::vector<Change> unshare(const ClaimedTree& before) const = 0;
};

}  // namespace yc
