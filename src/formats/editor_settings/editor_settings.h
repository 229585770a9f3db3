// Tasks, launches and settings of editors (JSON with comments): ${workspaceFolder} and other paths.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> editor_settings_format();

}  // namespace yc
