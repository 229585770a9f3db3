// What the commands of a script name, where nobody says from which folder it is started.
#pragma once

#include <functional>

#include "formats/shell/command_line.h"

namespace yc::shell {

// `read` gives the commands of the script in `script`, started from a folder. It is taken to be started from
// the folder, from the script's own up to the root, from which most of its words lead somewhere; so all but
// scripts that are read in place are likely references.
void emit_script(const TreeReader& tree, std::uint8_t format, const Base& script,
                 const std::function<CommandLine(const Base& start)>& read, GraphBuilder& out);

// Files that are not there and that a command writes by ">": sources may include them where they come to lie.
void note_written(const Command& command, const TreeReader& tree, GraphBuilder& out);

// Files whose bytes a command compares, so that a change of one may be one too many.
void note_compared(const Command& command, const TreeReader& tree, GraphBuilder& out);

// Sources that a command would compile and that are not there; all that `is_made` says yes to is.
void note_missing_sources(const Command& command, const Picked& picked, const TreeReader& tree,
                          const IsKnown& is_made, GraphBuilder& out);

}  // namespace yc::shell
