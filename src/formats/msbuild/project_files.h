// Which files belong to projects in XML, by their names.
#pragma once

#include <string>
#include <vector>

#include "tree/tree_reader.h"

namespace yc::msbuild {

// Evaluated by themselves: .csproj, .vcxproj and the like.
bool is_project(const RelPath& path);
// Imported by projects: .props, .targets, .projitems, .vcxitems.
bool is_imported(const RelPath& path);

}  // namespace yc::msbuild
