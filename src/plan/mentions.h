// Mentions: old paths in prose, comments and formats that nobody here reads. They are listed, and rewritten
// only when that is asked for.
#pragma once

#include <functional>
#include <vector>

#include "formats/format.h"
#include "model/blocker.h"
#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

struct Mention {
  RelPath file;
  Span span;
  RelPath named;  // spelled from the root
};

// Whether a file is known to hold no path that moves; asked in the order of the paths.
using IsFree = std::function<bool(const RelPath&)>;

std::vector<Mention> find_mentions(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves,
                                   const IsFree& is_free = nullptr);

// A doubt for each file with a mention that is no prose and that no reader knows: a tool may follow the path.
std::vector<Blocker> unread_mentions(const std::vector<Mention>& mentions, const ClaimedFiles& claimed);
// The same for paths from the file's own folder, of files in it or below that would no longer be found by
// them.
std::vector<Blocker> unread_neighbours(const TreeReader& tree, const MoveSet& moves,
                                       const ClaimedFiles& claimed);

}  // namespace yc
