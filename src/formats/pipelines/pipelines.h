// Workflows and pipelines of continuous builds, and the lists that hosts of repositories read (YAML):
// commands, folders they run in, patterns of paths, actions and templates of the tree itself.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> pipelines_format();

}  // namespace yc
