// Modules left where another one was, which hand on all that it exports.
#pragma once

#include <optional>
#include <string>

#include "tree/tree_reader.h"

namespace yc::modules {

// Beside a module that goes to a folder of its own name, the index of that folder: "tide.ts" to
// "tide/tide.ts" leaves "tide/index.ts". Else the old place.
RelPath forwarding_place(const RelPath& old_path, const RelPath& new_path);
// The text to leave there; nothing for files that are no modules.
std::optional<std::string> forwarding_module(const TreeReader& tree, const RelPath& old_path,
                                             const RelPath& new_path, std::string_view bytes);
// The module that such a one hands on.
std::optional<RelPath> forwarded_to(const RelPath& path, std::string_view bytes);

}  // namespace yc::modules
