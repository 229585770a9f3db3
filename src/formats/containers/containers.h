// Container files, what their builds leave out (.dockerignore), and compositions of containers.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> containers_format();

}  // namespace yc
