// Meson build scripts as a format (the Meson reference manual, language version 1.0 and what later ones add).
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> meson_format();

}  // namespace yc
