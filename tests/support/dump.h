// Reads a tree in memory and tells the references that were found, a line each: "role text -> targets".
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "model/graph.h"
#include "tree/memory_tree.h"

namespace yc::test {

MemoryTree tree_of(const std::vector<std::pair<std::string, std::string>>& files);
ReferenceGraph read(const TreeReader& tree);
// References of one role that lead into the tree, sorted, without repeats; likely ones end in '?'.
std::vector<std::string> dump(const ReferenceGraph& graph, Role role);
std::vector<std::string> holes(const ReferenceGraph& graph);
std::vector<std::string> notices(const ReferenceGraph& graph);

}  // namespace yc::test
