// Stylesheets: CSS, SCSS, the indented syntax of Sass, and Less.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> styles_format();

}  // namespace yc
