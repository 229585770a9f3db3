// Linker scripts (GNU ld manual, "Commands Dealing with Files"): the scripts and inputs that they name.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> linker_scripts_format();

}  // namespace yc
