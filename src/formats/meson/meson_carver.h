// Giving a folder a meson.build of its own, read by subdir(). All scripts of a project share their variables.
#pragma once

#include "formats/capabilities/carving.h"
#include "formats/format.h"

namespace yc::meson {

const Carver& carver(const Format& format);

}  // namespace yc::meson
