// Names that could mean two things: includes that more than one search root could answer, and objects that
// more than one source would be compiled to.
#pragma once

#include <string>
#include <vector>

#include "plan/image.h"

namespace yc {

// An include that leads to `chosen`, where a folder that is searched later has a file of that name too.
struct Shadowing {
  std::int32_t reference = -1;
  RelPath chosen, other;
  auto operator<=>(const Shadowing&) const = default;
};
// One for each include and pair of files.
std::vector<Shadowing> shadowed_includes(const TreeReader& tree, const ReferenceGraph& graph);

// For a message: "util.o would be made from a/util.c and from b/util.c".
std::string clash_text(const ObjectClash& clash);

}  // namespace yc
