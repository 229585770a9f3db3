// CMake: reads CMakeLists.txt and *.cmake by evaluating them to traced text. Language: cmake-language(7) and
// cmake-commands(7) of version 3.25. Scripts that no project includes, as toolchains, are read for the paths
// that they count from known folders. Paths in variables that no script expands are taken to be read by CMake
// itself.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> cmake_format();
std::unique_ptr<Format> cmake_presets_format();

}  // namespace yc
