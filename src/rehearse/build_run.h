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

// What to run, and where.
struct BuildCall {
  std::string command;                // for /bin/sh
  std::string folder;                 // absolute
  std::string log;                    // file for its output
  double seconds = 0;                 // after which it is killed with all its children; 0: no limit
  std::vector<std::string> watching;  // words to start the shell with, so that it is watched; may be empty
};

// Runs it with no standard input. `tick` is called about four times a second with the seconds gone.
Result<BuildRun> run_build(const BuildCall& call, const std::function<void(double)>& tick);

// Whether a build can be watched here: nothing if so, else why not, for a person.
std::string why_not_watched();

// The lines of a log that tell why a build failed, at most `most`.
std::vector<std::string> telling_lines(const std::string& log_text, std::size_t most);

}  // namespace yc
