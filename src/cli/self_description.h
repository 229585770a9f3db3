// What the program says of its own commands and options, in the languages of shells and of manual pages. All
// of it comes from the table that --help is made of.
#pragma once

#include <CLI/CLI.hpp>
#include <optional>
#include <string>

namespace yc::cli {

// A script that completes commands, options and their values: for "bash", "zsh" or "fish".
std::optional<std::string> completion_script(const CLI::App& app, const std::string& shell);
// A manual page (roff with the man macros) of the program, or of one of its commands.
std::string manual_page(const CLI::App& app, const CLI::App* command, const std::string& version);

// All commands with their options, as a page in Markdown.
std::string commands_page(const CLI::App& app);
// What is read of which format, likewise.
std::string formats_page();

}  // namespace yc::cli
