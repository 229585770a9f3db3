// What commands print that only tell where something is, for whoever takes it by $(…).
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "formats/shell/command_line.h"

namespace yc::shell {

// Stands for the name of the script itself, of which only the folder is known here: "$(readlink -f "$0")".
inline constexpr std::string_view kOwnName = "\x01script";

// The folder that an absolute text lies in; above a folder one climbs. Nothing if that cannot be said.
std::optional<TracedText> folder_above(const TracedText& text);

// Of pwd, and of dirname and realpath of a folder of the tree, as an absolute text with its trace; nothing of
// other commands.
std::optional<TracedText> output_of(const Command& command);

// Whether a program only tells where something is, by the texts that it is given.
bool only_says_where(std::string_view program);

// $(dirname …), climbing `more` folders further, or fewer. Nothing if an expression is none, or cannot.
std::optional<std::string> climbing(std::string_view expression, int more);

}  // namespace yc::shell
