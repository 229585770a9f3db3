// One more file in a project, as a sibling is listed: its object, its place in the group and in the phases
// that build it; and one less.
#pragma once

#include "formats/format.h"

namespace yc::plist {

std::vector<Edit> list_member(const ReferenceGraph& graph, const Reference& like, const RelPath& path,
                              const TreeReader& tree);
std::vector<Edit> unlist_member(const ReferenceGraph& graph, const Reference& member, const TreeReader& tree);

}  // namespace yc::plist
