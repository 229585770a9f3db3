// Files that a project has copied beside its program ("CopyToOutputDirectory"), and where: at the path of
// their item's "Link", else where they are below the project's folder, else under their names alone ("MSBuild
// reference", task AssignTargetPath).
#pragma once

#include "formats/capabilities/companions.h"
#include "formats/msbuild/evaluation.h"

namespace yc::msbuild {

// Has the programs of the project's folder find what does not lie there as it does below that.
void note_copies(const TreeReader& tree, const Project& project, GraphBuilder& out);

// Links that keep a copy where it is, for files that come to lie below the project's folder or leave it.
std::vector<Proposal> keep_output_places(const ClaimedTree& before, const MoveSet& moves);

}  // namespace yc::msbuild
