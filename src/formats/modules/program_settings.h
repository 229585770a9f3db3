// Settings that are programs: configurations of bundlers, test runners and linters. They are not run; the
// shapes in which they give names to folders are read.
#pragma once

#include "formats/modules/module_scan.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::modules {

// Whether a file's name says that it holds settings.
bool is_program_settings(const RelPath& path);

// Adds the names that a settings program gives to folders and files of the tree: '@': path.resolve(__dirname,
// 'src'),
// '@': './src', { find: '@', replacement: … }, and '^@/(.*)$': '<rootDir>/src/$1'.
void add_program_aliases(const TreeReader& tree, const RelPath& path, const ModuleFacts& facts,
                         std::string_view bytes, GraphBuilder& out);

}  // namespace yc::modules
