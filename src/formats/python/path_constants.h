// A name for a folder of assets in a Python program.
#pragma once

#include <string>
#include <vector>

#include "formats/format.h"

namespace yc::python {

// See Format::through_constant().
std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                   const std::vector<const Reference*>& references, const std::string& name,
                                   const RelPath& folder);

// See Constants::in_loader().
std::vector<Edit> in_loader(const TreeReader& tree, const ReferenceGraph& graph,
                            const std::vector<const Reference*>& references, const std::string& name,
                            const RelPath& folder);

}  // namespace yc::python
