// Which files make up a package, and what of a file's name keeps it for some builds (go/build, "Build
// Constraints").
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "formats/capabilities/consequences.h"
#include "formats/go/go_modules.h"
#include "formats/go/go_scan.h"

namespace yc::go {

// What the end of a file's stem says: "_test", a system, a processor; other builds pass the file over. Names
// that begin with '_' or '.' belong to no build.
std::string constraint_of(std::string_view name);

// Whether a file is a source that a build may take.
bool is_source(const RelPath& path);

// What the move would break that no import shows: packages torn apart or mixed, files that other builds would
// take, packages that may not be imported from where they come to lie.
std::vector<Blocker> package_consequences(const TreeView& before, const TreeView& planned,
                                          const MoveSet& moves);

}  // namespace yc::go
