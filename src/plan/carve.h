// Giving a folder its own build script, taken out of the one above it, and taking such a script back in.
#pragma once

#include "plan/plan.h"

namespace yc {

// The plan moves no file: it edits the script above, and makes the folder's own (or adds to it). Statements
// that are about the folder alone go; of lists that name files of several folders, the words about this one
// go where the language has a way to say so. Fails if no script names anything in the folder.
// A folder that no build script names, and whose sources belong to a unit that a file upwards of them makes,
// gets a unit of its own (an assembly, a project, a package), with the references that it and its users then
// need.
Result<Plan> carve(const TreeReader& tree, const RelPath& folder);
// Has the folder's sources belong to the unit of that name, wherever it is.
Result<Plan> join(const TreeReader& tree, const RelPath& folder, const std::string& unit);
// The reverse: the statements of the folder's script go to the place where it is read, and the script goes.
Result<Plan> fold(const TreeReader& tree, const RelPath& folder);

}  // namespace yc
