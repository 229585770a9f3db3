// Why the references on one line lead where they do.
#pragma once

#include <string>
#include <vector>

#include "inspect/inspect.h"
#include "plan/plan.h"

namespace yc {

// A place that a text was looked for at.
struct TriedPlace {
  std::string unit;  // for an include, the build unit that looks there; else empty
  RelPath path;
  bool is_found = false;
};

struct Reason {
  Seen seen;
  RelPath base;              // the folder that it counts from
  bool is_searched = false;  // it is looked for in folders one after the other, rather than counted from one
  std::vector<TriedPlace> tried;  // in order, up to the one that was found
  // Where the parts of its text stand, if not all of them on the line: "FILE:LINE" and the part.
  std::vector<std::pair<std::string, std::string>> parts;
};

// Of all references that stand on a line, from 1, or whose text has a part there.
std::vector<Reason> reasons_at(const TreeReader& tree, const ReferenceGraph& graph, const RelPath& file,
                               std::size_t line);

// The same for what a plan makes of a line.
struct PlannedReasons {
  std::vector<Reason> before, after;
  std::vector<PlannedEdit> edits;  // on the line
};
PlannedReasons planned_reasons(const Plan& plan, const TreeReader& tree, const TreeReader& planned,
                               const RelPath& file, std::size_t line);

}  // namespace yc
