// Python sources: what they import, and what they name by dotted names and by paths. Language: the Python
// language reference (import system), version 3.11, and what older ones wrote.
//
// Where a dotted name leads depends on how a program is started. PythonResolver gives the folders in order:
// the one above the file's own packages, those that settings tell (ModuleRoot), those that programs above are
// started in, projects, and last any folder above. A name that is found only by a guess is another reference
// than one found for sure (its ConstructPart says so), so a move that would turn one into the other does not
// pass. The names that an import binds are part of it too: what code calls a module stays.
//
// All names of an import statement are one construct; a way respells the whole statement, and may put one of
// its own before it. "gauges.tide" in code is a reference where "gauges" is bound to a package; functions
// that bind the name themselves are left alone. Paths are evaluated with the trace of every piece, across
// modules: what begins at __file__ is certain, a plain string likely. A name put together at run time is a
// hole. Where a file moves that climbs to a folder above (parents[1], dirname(dirname(__file__))), the count
// of folders changes once, for all that is found from there. What only shows when a program runs is a
// consequence: import_order runs import statements in memory, before and after, and tells what would newly
// fail.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> python_format();

}  // namespace yc
