// One more item in a project, as its siblings are listed, and in its filters; one less in both.
#pragma once

#include "formats/format.h"

namespace yc::msbuild {

std::vector<Edit> list_member(const ReferenceGraph& graph, const Reference& like, const RelPath& path,
                              const TreeReader& tree);
std::vector<Edit> unlist_member(const ReferenceGraph& graph, const Reference& member, const TreeReader& tree);

}  // namespace yc::msbuild
