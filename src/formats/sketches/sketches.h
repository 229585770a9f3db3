// Sketches for microcontrollers ("Sketch specification", "Library specification" of their toolkit): a folder
// whose main file bears its name, built with everything beside it and below its `src`; libraries with a
// properties file.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> sketches_format();

}  // namespace yc
