// Files that are named on the command line; "-" is a standard stream.
#pragma once

#include <string>

#include "base/result.h"

namespace yc::cli {

Result<std::string> read_input(const std::string& name);
Status write_output(const std::string& name, const std::string& text);

}  // namespace yc::cli
