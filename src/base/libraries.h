// The libraries that the core is built on, by their versions when it runs.
#pragma once

#include <string>
#include <utility>
#include <vector>

namespace yc {

std::vector<std::pair<std::string, std::string>> library_versions();

}  // namespace yc
