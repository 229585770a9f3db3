// Respelling text of a build script for another folder that it is to stand in.
#pragma once

#include <vector>

#include "formats/capabilities/carving.h"
#include "plan/plan.h"

namespace yc {

struct Rebase {
  const TreeReader& tree;
  const ReferenceGraph& graph;
  const Carver& carver;
  RelPath script;           // where the text stands
  std::vector<Span> spans;  // of it
  RelPath folder;           // that its paths are to be relative to
};
// The edits, within the spans, after which all its paths lead to where they do now. What cannot be said so is
// added to `blockers`.
std::vector<Edit> rebased(const Rebase& what, std::vector<Blocker>& blockers);

}  // namespace yc
