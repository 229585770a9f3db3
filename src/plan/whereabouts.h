// Files were moved without us: what went where, told by content.
#pragma once

#include <string>
#include <vector>

#include "tree/commit_tree.h"
#include "tree/moves.h"

namespace yc {

struct FoundMove {
  Move move;
  int alike = 100;  // per cent of the lines that both have
};

// A file that is gone and that several new ones could be.
struct Unclear {
  RelPath from;
  std::vector<RelPath> candidates;  // likeliest first
};

struct Whereabouts {
  std::vector<FoundMove> moves;  // by old path
  std::vector<Unclear> unclear;
  std::vector<RelPath> gone;   // like nothing that is new
  std::vector<RelPath> fresh;  // like nothing that is gone
};

// Compares the files of a commit with those of the tree as it is now. A file counts as moved if its old path
// is free: by the same content, else by half its lines at least; the name and where its folder's other files
// went decide between equals.
Whereabouts find_moved(const CommitTree& before, const TreeReader& now);

// The moves with those of whole folders put together, as a person would write them: a folder is named if all
// files that were in it went to the same place below another.
std::vector<Move> by_folder(const std::vector<FoundMove>& moves, const CommitTree& before,
                            const TreeReader& now);

}  // namespace yc
