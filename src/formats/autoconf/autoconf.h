// configure.ac (GNU Autoconf manual): files that configure fills in, folders it looks in, scripts it
// includes.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> autoconf_format();

}  // namespace yc
