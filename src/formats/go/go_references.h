// What Go sources, module files and files that name packages lead to.
#pragma once

#include "formats/format.h"

namespace yc::go {

// The writing style of what //go:embed names.
inline constexpr WritingStyle kEmbedded = 1;

// What leads the spelling of packages that commands name by their folders, or do not name.
inline constexpr const char *kPackageFolder = ".", *kImpliedPackage = " ";

// Whether a file of another format may name packages by their import paths.
bool may_name_packages(const RelPath& path);

void add_references(const Reading& in);

}  // namespace yc::go
