// A constant that stands for a folder of assets, written into a program whose texts are then glued to it.
#pragma once

#include <string>
#include <vector>

#include "formats/format.h"
#include "formats/glued_paths/glue_scan.h"

namespace yc::glued_paths {

// See Format::through_constant(). What the language cannot say there, as a text within an attribute of an
// element, is left as it is.
std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                   const std::vector<const Reference*>& references, const std::string& name,
                                   const RelPath& folder, Language language);

}  // namespace yc::glued_paths
