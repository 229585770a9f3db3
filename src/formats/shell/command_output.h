// What commands print that only tell where something is, for whoever takes it by $(…).
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "formats/shell/command_line.h"

namespace yc::shell {

// Of pwd, and of dirname and realpath of a folder of the tree, as an absolute text with its trace; nothing of
// other commands.
std::optional<TracedText> output_of(const Command& command);

// Whether a program only tells where something is, by the texts that it is given.
bool only_says_where(std::string_view program);

// $(dirname …), climbing `more` folders further, or fewer. Nothing if an expression is none, or cannot.
std::optional<std::string> climbing(std::string_view expression, int more);

}  // namespace yc::shell
