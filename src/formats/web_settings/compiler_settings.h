// tsconfig.json and jsconfig.json, also under names of their own (the TypeScript handbook, "TSConfig
// Reference"): JSON with comments.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> compiler_settings_format();

}  // namespace yc
