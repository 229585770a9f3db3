// What a file is for whoever reads a list of files.
#pragma once

#include "base/path.h"

namespace yc {

enum class FileKind : std::uint8_t {
  script,  // a build script, a project or settings
  source,  // code
  other    // documents and data
};
FileKind kind_of_file(const RelPath& path);

}  // namespace yc
