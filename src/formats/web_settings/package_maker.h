// A folder of modules gets a package of its own within the one that it is a part of, and back.
#pragma once

#include "formats/capabilities/unit_making.h"

namespace yc::web_settings {

// The package depends on what its modules import, as the outer one lists it. In a workspace it becomes a
// member, in the manifest and in an npm lock, and those whose modules import it depend on it. Imports stay as
// they are. Nothing if the folder has no modules, or no package is above it.
std::optional<UnitChange> make_package(const TreeView& view, const RelPath& folder);
// The reverse: the outer package depends on what the inner one does. Nothing if the folder holds no package.
std::optional<UnitChange> drop_package(const TreeView& view, const RelPath& folder);

}  // namespace yc::web_settings
