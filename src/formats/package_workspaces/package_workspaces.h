// What files beside package manifests say of the packages of a workspace: lists of members (JSON, and YAML
// with block sequences), and locks, whose keys and links are folders of packages. Locks are JSON (keys of
// `packages` and links, lockfileVersion 2 and 3), YAML (keys of `importers`, `link:` and `file:` counted from
// each, `directory:`), or lines with "@workspace:FOLDER".
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> package_lists_format();
std::unique_ptr<Format> package_locks_format();

}  // namespace yc
