// What else a command tells, beside the paths that it names.
#pragma once

#include "formats/shell/command_line.h"

namespace yc::shell {

// Notes in the graph of `out`, where the working folder is known:
// - files that are not there and that the command writes by ">": sources may include them where they come to
// lie;
// - files whose bytes it compares, so that a change of one may be one too many;
// - folders that it gives to a program of the project, copies or packs, or whose files it lists for another
// command.
void note_effects(const Command& command, const TreeReader& tree, GraphBuilder& out);
// Notes the script that a command starts, and the folder of the tree that it is started in (Scope::starts).
void note_started(const Command& command, const TreeReader& tree, GraphBuilder& out);

}  // namespace yc::shell
