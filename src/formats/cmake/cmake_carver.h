// Giving a folder a CMakeLists.txt of its own, read by add_subdirectory() in a scope of its own.
#pragma once

#include "formats/capabilities/carving.h"
#include "formats/format.h"

namespace yc::cmake {

const Carver& carver(const Format& format);

}  // namespace yc::cmake
