// What is known of programs and of words of commands by their names.
#pragma once

#include <optional>
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
// Whether a command that begins with a word may start a script or a program of the project.
bool may_start_own(std::string_view first_word);
// The place of the word that names what a command starts, past programs that start others and interpreters:
// "./t", "valgrind -q ./t", "timeout 10 sh run.sh". Nothing where that is not known.
std::optional<std::size_t> started_word(const Command& command);
// Whether a command starts a program or a script that may be one of the project: by its path, or by the name
// of a file that is there.
bool starts_own_program(const Command& command, const TreeReader& tree);

}  // namespace yc::shell
