// Texts with a part that evaluation cannot know, which could spell a path that moves.
#pragma once

#include <vector>

#include "plan/plan.h"
#include "tree/tree_reader.h"

namespace yc {

struct UnseenReferences {
  std::vector<Blocker> in_the_way;
  // Of whose folder and of whose name's end nothing is known: almost any file could be meant.
  std::vector<Notice> vague;
};
UnseenReferences unseen_references(const ReferenceGraph& graph, const MoveSet& moves);

}  // namespace yc
