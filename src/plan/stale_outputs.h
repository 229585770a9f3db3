// What the last build left behind that would mislead the next one after a move.
#pragma once

#include <vector>

#include "plan/plan.h"

namespace yc {

// A dependency file that names what moves, as compilers write it beside an object ("tide.o: tide.c tide.h";
// GNU make manual, "Generating Prerequisites Automatically"). make reads it again, and stops where a file is
// gone.
struct StaleOutput {
  RelPath file;
  RelPath names;                 // what it names that moves
  std::vector<RelPath> objects;  // of its rule; without the file nothing would tell when they are out of date
};

// Of the files that version control ignores.
std::vector<StaleOutput> stale_outputs(const TreeReader& tree, const MoveSet& moves);

// In a plan that verified: with `sweep` these go, with their objects; else they are named with the command
// that removes them.
void set_stale_apart(const TreeReader& tree, bool sweep, Plan& plan);

}  // namespace yc
