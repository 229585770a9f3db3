// Include guards that are made of a header's path: "NET_TIDE_H" in net/tide.h. Where a file has such a one
// and the project's other headers do too, it follows the file.
#pragma once

#include <optional>
#include <string>

#include "formats/format.h"
#include "tree/moves.h"

namespace yc::c_family {

// The macro that the first two directives of a header test and define; nothing if they do something else.
std::optional<std::string> guard_of(std::string_view bytes);

// How a guard is made of a path: what stands around it, and how many of the path's last components it spells.
struct GuardShape {
  std::string lead, tail;
  std::size_t components = 0;
};
std::optional<GuardShape> shape_of(const std::string& guard, const RelPath& path);
// The guard of that shape for a header that moved.
std::string guard_for(const GuardShape& shape, const RelPath& old_path, const RelPath& new_path);

// One way for each header that moves and whose guard should follow. A guard that another file names is left
// alone.
std::vector<Proposal> follow_guards(const TreeReader& tree, const MoveSet& moves);

}  // namespace yc::c_family
