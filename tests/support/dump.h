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
// Each source with the search roots that it is compiled with, sorted, without repeats.
std::vector<std::string> compiled(const ReferenceGraph& graph);
// All that a graph holds, by paths and offsets, sorted: two readings that mean the same are equal.
std::vector<std::string> everything(const ReferenceGraph& graph);
std::vector<std::string> holes(const ReferenceGraph& graph);
std::vector<std::string> notices(const ReferenceGraph& graph);

}  // namespace yc::test
