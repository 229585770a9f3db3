// Symbolic links: the text of a link is a path, relative to the folder that the link is in (POSIX,
// symlink()).
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> links_format();

}  // namespace yc
