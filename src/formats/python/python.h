// Python sources: what they import, and what they name by dotted names and by paths.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> python_format();

}  // namespace yc
