// What a project in a property list names in the tree.
#pragma once

#include "formats/format.h"

namespace yc::plist {

void read_project(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out);
// Workspaces, which list projects, and schemes, which name the projects that they build (XML).
void read_workspace(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out);
// Settings in a file of their own: KEY = value, #include "…".
void read_settings(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out);

}  // namespace yc::plist
