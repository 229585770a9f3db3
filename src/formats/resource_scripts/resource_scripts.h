// Resource scripts of Windows programs ("About Resource Files"): files that are spelled with backslashes, or
// without quotes. Others are read with the strings of C sources.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> resource_scripts_format();

}  // namespace yc
