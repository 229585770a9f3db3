// JavaScript and TypeScript: what modules import, also those within pages and components.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> modules_format();

}  // namespace yc
