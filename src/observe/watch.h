// Watching a build: the system call tracer, as a tool that the machine has or has not.
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "observe/observation.h"
#include "tree/tree_reader.h"

namespace yc {

// The words to start a command with so that it is watched, the tracer's log going to the file `log`.
std::vector<std::string> watching(const std::string& log);

// What was made below `folder` (absolute): the files there, links included, that `tree` has not. Sorted.
std::vector<RelPath> made_in(const std::string& folder, const TreeReader& tree);

// The observation of a build of `command` that has ended, from the tracer's log. `folder` was a copy of
// `tree`.
Result<Observation> observed(const std::string& command, const std::string& log, const std::string& folder,
                             const TreeReader& tree);

}  // namespace yc
