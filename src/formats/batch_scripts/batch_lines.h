// The command lines of a batch script: words with their trace, the working folder followed, variables put in.
// Both separators of paths are read as '/'.
#pragma once

#include <string_view>

#include "formats/shell/command_line.h"

namespace yc::batch {

// Writing styles: how a word spells its separators, and whether it stands in quotes.
inline constexpr WritingStyle kSlash = 0, kBackslash = 1, kQuotedSlash = 2, kQuotedBackslash = 3;

// `script` is where the bytes stand, `start` the folder that it is started from.
shell::CommandLine read_lines(std::string_view bytes, const Base& start, const Base& script);

}  // namespace yc::batch
