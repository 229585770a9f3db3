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

// Files that are not read, or not in full, and could name what moves: garbled ones, scripts that were given
// up, what cannot be opened, and files in languages that no format reads. `unreadable` is what the tree tells
// once all formats have read it.
std::vector<Blocker> unread_files(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves,
                                  const std::vector<RelPath>& unreadable);

}  // namespace yc
