// GNU make: reads makefiles by evaluating them to traced text. Language: the GNU make manual, version 4.3.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> make_format();

}  // namespace yc
