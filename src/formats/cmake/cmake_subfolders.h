// add_subdirectory() for a folder that is not below its script's: CMake asks for the folder of the build
// tree, too ("add_subdirectory", CMake documentation).
#pragma once

#include <vector>

#include "formats/capabilities/consequences.h"
#include "formats/format.h"

namespace yc::cmake {

// The command with both folders; the one in the build tree lies there as the source does in the tree.
std::vector<Proposal> with_build_folder(const Format& format, const RewriteRequest& need);

// Commands that would come to lack it.
std::vector<Blocker> lacking_build_folders(const TreeView& before, const TreeView& planned,
                                           const MoveSet& moves, const Format& format);

}  // namespace yc::cmake
