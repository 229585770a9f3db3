// package.json (the npm documentation, "package.json"; the Node.js documentation, "Modules: Packages").
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> package_manifests_format();

}  // namespace yc
