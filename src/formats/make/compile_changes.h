// What becomes of compiling where a source has another name or folder: objects that the compiler leaves where
// it is started, options that hang on the name.
#pragma once

#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/format.h"

namespace yc::make {

// "-o $@" behind the command of each rule for many that has none, if an object that it makes is to lie in a
// folder after the move: "cc -c $<". `makefiles` are looked through.
std::vector<Proposal> name_objects(const ClaimedTree& tree, const MoveSet& moves);

// Objects that stray after the move and did not before.
std::vector<Blocker> new_strays(const TreeView& before, const TreeView& planned, const MoveSet& moves);

// Sources that would be compiled with other options than now.
std::vector<Blocker> changed_options(const TreeView& before, const TreeView& planned, const MoveSet& moves);

// What make or a linker would stop at after the move, and would not before.
std::vector<Blocker> new_complaints(const TreeView& before, const TreeView& planned, const MoveSet& moves);

}  // namespace yc::make
