// Units whose sources import only each other, so that they move together without being read.
#pragma once

#include <set>

#include "formats/capabilities/consequences.h"

namespace yc {

class WholeUnits {
 public:
  virtual ~WholeUnits() = default;
  // The moved sources of units that move as they are, all of their sources and what defines them, to one
  // place; and those that may move alone, because they are found as the same from there.
  virtual std::set<RelPath> sources_of_whole_units(const ReadTree& tree, const MoveSet& moves) const = 0;
};

}  // namespace yc
