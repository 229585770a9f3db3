// C, C++ and their kin: what sources include, resolved in the contexts that build scripts give them.
// Language: ISO/IEC 9899, section 6.10 (C preprocessor), with the GNU extensions include_next and #import.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> c_family_format();

}  // namespace yc
