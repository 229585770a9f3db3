// Data that names files: maps and atlases, scenes and materials, lists of fonts and sounds, settings that
// give folders roles, and any other file of a language whose values can be found (see values.h). Which folder
// the values of a file are relative to is learned from those that lead somewhere.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> data_files_format();

}  // namespace yc
