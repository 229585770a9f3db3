// Words of a command that hold code in another language: python3 -c "…", awk '…'.
#pragma once

#include <string>
#include <vector>

#include "formats/shell/command_line.h"

namespace yc::shell {

// Whether the word at `index` is code for the program that is called `program`.
bool is_code(const Command& command, const std::string& program, std::size_t index);
// The strings in code that may be paths, without their quotes.
std::vector<TracedText> strings_in_code(const TracedText& code);

}  // namespace yc::shell
