// Runs a project's own build command. Nothing else in the program runs a command of a project.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "base/result.h"

namespace yc {

struct BuildRun {
  bool built = false;
  bool timed_out = false;
  int status = -1;     // exit status, or 128 + the signal
  double seconds = 0;  // wall clock
  std::string log;     // file with all that it printed
};

// Runs `command` with /bin/sh in `folder`, its output in the file `log`, with no standard input. After
// `seconds` (0: no limit) it is killed with all its children. `tick` is called about four times a second with
// the seconds gone.
Result<BuildRun> run_build(const std::string& command, const std::string& folder, const std::string& log,
                           double seconds, const std::function<void(double)>& tick);

// The lines of a log that tell why a build failed, at most `most`.
std::vector<std::string> telling_lines(const std::string& log_text, std::size_t most);

}  // namespace yc
