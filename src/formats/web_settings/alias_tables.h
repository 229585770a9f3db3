// Writing a name for a folder into the settings of a compiler and into a package's manifest.
#pragma once

#include <string>
#include <vector>

#include "base/edit.h"
#include "tree/tree_reader.h"

namespace yc::web_settings {

// Into "paths" of the nearest tsconfig.json or jsconfig.json above the folder, or of the settings that it
// takes its paths from; none if there is neither.
std::vector<Edit> name_in_compiler(const TreeReader& tree, const std::string& name, const RelPath& folder);
// Into "imports" of the nearest package.json above the folder, for a name with "#"; none for others.
std::vector<Edit> name_in_manifest(const TreeReader& tree, const std::string& name, const RelPath& folder);

}  // namespace yc::web_settings
