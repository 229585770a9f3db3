// The commands that a project has run: lines for the command interpreter of its system, with macros put in.
#pragma once

#include "formats/shell/command_line.h"

namespace yc::msbuild {

// Splits into commands and words; quotes are taken off, "cd" is followed. Separators of paths are '/'
// already.
shell::CommandLine command_lines(const TracedText& text, const Base& start);

}  // namespace yc::msbuild
