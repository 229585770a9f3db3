// Giving a folder an assembly of its own, or having it join another one.
#pragma once

#include "formats/capabilities/unit_making.h"

namespace yc::assemblies {

std::optional<UnitChange> make_assembly(const TreeView& view, const RelPath& folder);
std::optional<UnitChange> join_assembly(const TreeView& view, const RelPath& folder, const std::string& name);
std::optional<UnitChange> drop_assembly(const TreeView& view, const RelPath& folder);

}  // namespace yc::assemblies
