// What folders and files are, for layout rules.
#pragma once

#include <string>
#include <vector>

#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

// The kinds that rules may name.
const std::vector<std::string>& folder_kinds();
const std::vector<std::string>& file_kinds();

// Of a folder by its name, by what scripts and manifests say of it, and by what lies in it: a test, a
// program, a library, one that is private to the tree, or assets only. Empty for none of them.
std::string kind_of_folder(const TreeReader& tree, const ReferenceGraph& graph, const RelPath& folder);
// Of a file by its name; empty for none of them.
std::string kind_of_file(const RelPath& path);

}  // namespace yc
