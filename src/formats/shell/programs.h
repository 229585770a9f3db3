// What is known of programs and of words of commands by their names.
#pragma once

#include <string_view>

#include "formats/shell/command_line.h"

namespace yc::shell {

// Whether a name's ending says that a compiler would compile it.
bool is_source_name(std::string_view name);
// Whether a word is an option behind which a command is told what to write.
bool is_output_option(std::string_view text);
// Whether a program, named without its folder, is a compiler or an assembler: "gcc", "arm-none-eabi-gcc-12",
// "$(CROSS_COMPILE)gcc".
bool is_compiler(std::string_view name);
bool is_shell(std::string_view name);
// Whether the arguments of a program are text, not paths.
bool takes_text(std::string_view name);
// Whether a program is given folders by their bare names.
bool takes_folders(std::string_view name);
// Whether a word is an option whose value is a folder, to that program.
bool takes_folder(std::string_view program, std::string_view option);
// Whether a folder may stand behind a word: an option as "-C", or "cd".
bool stands_before_folder(std::string_view word);
// Whether a command starts a program by its path, which may be one of the project: "./t cases",
// "valgrind -q ./t cases".
bool starts_by_path(const Command& command);

}  // namespace yc::shell
