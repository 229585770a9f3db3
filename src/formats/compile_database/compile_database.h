// compile_commands.json, the JSON Compilation Database (format as published by the Clang project): how each
// source was compiled when it was made. Its entries are units, whose search roots are the truth as long as
// the database fits the tree.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> compile_database_format();

// The databases of a tree, also those in ignored folders of the root, as builds leave them there. Sorted.
std::vector<RelPath> compile_databases(const TreeReader& tree);

}  // namespace yc
