// Files left at old places that lead on to where their content went.
#pragma once

#include <vector>

#include "plan/plan.h"

namespace yc {

struct Forwarder {
  RelPath path, target;
  std::vector<std::int32_t> users;  // references of the graph that lead to it
};

// The forwarders in a tree, sorted by path, with who still uses them.
std::vector<Forwarder> find_forwarders(const TreeReader& tree, const ReferenceGraph& graph);

// What to leave at the old places of files that move, for those that can have such a thing.
FileChanges leave_forwarders(const TreeReader& tree, const MoveSet& moves);

// Whether a language keeps the old name of something that moves in another source.
bool leaves_names(const MoveSet& moves);

// Leads all users of these forwarders to where they forward to, and takes the forwarders away.
Plan drop_forwarders(const TreeReader& tree, const std::vector<Forwarder>& forwarders, PlanOptions options);

}  // namespace yc
