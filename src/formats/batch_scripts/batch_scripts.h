// Batch scripts of cmd.exe (.bat, .cmd): what they call, read and write.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> batch_scripts_format();

}  // namespace yc
