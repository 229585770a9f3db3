// What a move from one package into another means for the packages that both depend on.
#pragma once

#include "formats/capabilities/consequences.h"
#include "formats/format.h"
#include "formats/json/json_strings.h"

namespace yc::web_settings {

// The nearest package.json above a file decides which package it belongs to; what its code imports by bare
// names must be listed there or in a manifest above ("package.json", npm documentation). Says which files
// change their package, what the new one does not list, and edits that list it with the old one's version.
BoundaryReport package_changes(const TreeView& before, const TreeView& planned, const MoveSet& moves);

// The systems and processors that a manifest limits its package to ("os" and "cpu"); "!" stands before one
// that is ruled out.
std::vector<std::string> platforms_of(const std::vector<json::StringValue>& manifest);

// Whether a package is a program, by what it starts, or a library, by what it offers.
Holding held_by(const std::vector<json::StringValue>& manifest, std::string_view bytes);

}  // namespace yc::web_settings
