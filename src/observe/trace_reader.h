// Makes an observation of what the system call tracer wrote about a build.
#pragma once

#include <functional>
#include <istream>
#include <string>

#include "observe/observation.h"
#include "tree/tree_reader.h"

namespace yc {

// `folder` (absolute, no links in it) is where the build stood, a copy of `tree` before anything was built.
// What the log says that cannot be understood is passed over.
Observation read_trace(std::istream& log, const std::string& folder, const TreeReader& tree);

}  // namespace yc
