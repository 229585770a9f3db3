// Assembly definitions (.asmdef, JSON): the nearest one upwards decides which assembly a source belongs to;
// reference files (.asmref) have a folder join an assembly from afar. References are by name, or by the
// identifier in the definition's .meta file.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> assemblies_format();

}  // namespace yc
