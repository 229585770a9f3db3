// Projects in XML, as MSBuild reads them: .csproj, .fsproj, .vbproj, .vcxproj with its filters, shared items,
// .props and .targets, and the lists of resources (.resx) that they compile.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> msbuild_format();

}  // namespace yc
