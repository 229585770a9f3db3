// Lists of resources (.resx): values of the type ResXFileRef are "path;type name;encoding".
#pragma once

#include "formats/format.h"

namespace yc::msbuild {

void read_resource_list(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out);

}  // namespace yc::msbuild
