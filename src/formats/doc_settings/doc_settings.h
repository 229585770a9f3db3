// Settings of the documentation generator that many native projects use: lines "NAME = words" (Doxygen
// manual, "Configuration", and templates of such files).
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> doc_settings_format();

}  // namespace yc
