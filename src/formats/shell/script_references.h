// What the commands of a script name, where nobody says from which folder it is started.
#pragma once

#include <functional>
#include <set>

#include "formats/shell/command_line.h"

namespace yc::shell {

// `read` gives the commands of the script in `script`, started from a folder. It is taken to be started from
// one of `starts`, where others start it, or else from the folder, from the script's own up to the root, from
// which most of its words lead somewhere; so all but scripts that are read in place are likely references.
void emit_script(const TreeReader& tree, std::uint8_t format, const Base& script,
                 const std::set<RelPath>& starts, const std::function<CommandLine(const Base& start)>& read,
                 GraphBuilder& out);

// Sources that a command would compile and that are not there; all that `is_made` says yes to is.
void note_missing_sources(const Command& command, const Picked& picked, const TreeReader& tree,
                          const IsKnown& is_made, GraphBuilder& out);

}  // namespace yc::shell
