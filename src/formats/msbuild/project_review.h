// What a project of C# sources lacks, or has twice, once the lists that it imports are taken in.
#pragma once

#include "formats/capabilities/reviews.h"

namespace yc::msbuild {

// Ids: missing-shared-import, declared-twice. `format` is this format's own index.
std::vector<Remark> review_projects(const TreeView& view, std::uint8_t format);

}  // namespace yc::msbuild
