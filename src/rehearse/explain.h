// Why a build failed, as far as its log and the references of the tree tell.
#pragma once

#include <string>
#include <vector>

#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

// A line of a log that tells, and the references that stand where it points.
struct Telling {
  std::string line;
  std::vector<std::string> references;
};

// The telling lines of the log at `log` of a build in `folder`, a copy of `tree`; with `moves` also which
// files moved that a line still names by their old paths.
std::vector<Telling> explain_failure(const std::string& log, const std::string& folder,
                                     const TreeReader& tree, const MoveSet* moves);

// All bytes of a file; empty if it cannot be read.
std::string whole_text(const std::string& path);

}  // namespace yc
