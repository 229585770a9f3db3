// The folders that a developer sees in a project of C++ (.vcxproj.filters): items repeated with the filter
// that each stands in, and the filters there are.
#pragma once

#include <vector>

#include "formats/capabilities/companions.h"
#include "formats/format.h"

namespace yc::msbuild {

void read_filters(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out);

// Ways to have the filters of items that move follow them.
std::vector<Proposal> mirror_filters(const ClaimedTree& before, const MoveSet& moves);

}  // namespace yc::msbuild
