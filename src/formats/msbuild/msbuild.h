// Projects in XML, as MSBuild reads them: .csproj, .fsproj, .vbproj, .vcxproj with its filters, shared items,
// .props and .targets, and the lists of resources (.resx) that they compile.
//
// A project's item list is one construct for each type of item, whichever element names what: a file may
// leave a wildcard for an element of its own, and what the SDK takes in is a pattern that no byte spells
// (PatternLists). A property keeps every value that conditions leave it; each is followed. What an imported
// file says counts once for each project that imports it (the first site of its chain). Links that keep a
// copy beside a program are read by others: a project's are edits that hold from the start (NeededChanges).
// What names show (filters, shown names) follows after the references have (FollowingNames).
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> msbuild_format();

}  // namespace yc
