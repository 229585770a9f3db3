// What the passes of a plan look at: the tree before the move and the planned one, with what was read of
// each.
#pragma once

#include "formats/format.h"
#include "plan/image.h"

namespace yc {

struct PlanView {
  const TreeReader& tree;
  const ReferenceGraph& old;
  const TreeReader& planned;
  const ReferenceGraph& now;  // of the planned tree as last read
  const MoveSet& moves;
  const EditMap& edits;
  const ClaimedFiles& claimed;  // of the tree before the move
  const ClaimedFiles& claimed_planned;
};

}  // namespace yc
