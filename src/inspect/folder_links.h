// Which folders name files of which others, before a move and after it.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "model/graph.h"
#include "tree/moves.h"

namespace yc {

// Files of `from` that name files of `to`: how many pairs of them. Folders that are not told apart are one.
struct FolderLink {
  std::size_t from = 0, to = 0;
  std::size_t before = 0, after = 0;
};

struct FolderLinks {
  std::vector<std::string> folders;  // in order; "." is the root, "…" behind one says that it holds others
  std::vector<FolderLink> links;     // between two of them, and within one
  // Pairs of files in different folders, however many folders are told apart.
  std::size_t crossing_before = 0, crossing_after = 0;
  std::size_t pairs = 0;  // of files, in all
};

// `moves` may be null. At most `most` folders are told apart: the deepest, with the fewest links, go into
// those around them.
FolderLinks folder_links(const ReferenceGraph& graph, const MoveSet* moves, std::size_t most);

}  // namespace yc
