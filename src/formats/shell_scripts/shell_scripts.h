// Scripts of a POSIX shell and its kin, files of their own: hand-written configure scripts too.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> shell_scripts_format();

}  // namespace yc
