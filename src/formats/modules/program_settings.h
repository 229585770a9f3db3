// Settings that are programs: configurations of bundlers, test runners and linters. They are not run; the
// shapes in which they give names to folders are read: '@': path.resolve(__dirname, 'src'), '@': './src', {
// find: '@', replacement: … },
// '^@/(.*)$': '<rootDir>/src/$1', and loadPaths: ['./scss'] for stylesheets.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> program_settings_format();

}  // namespace yc
