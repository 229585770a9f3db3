// Two observations of one build, before a move and after it: a build that succeeds but reads something else
// is as broken as one that fails, only nobody is told.
#pragma once

#include <string>
#include <vector>

#include "observe/observation.h"
#include "tree/moves.h"
#include "tree/overlay_tree.h"

namespace yc {

struct Difference {
  enum class Kind : std::uint8_t {
    not_read,        // a file that was read before is read by nobody after
    newly_read,      // a file that nobody read before
    read_otherwise,  // one unit of work reads another set of files, all of which others read too
    not_made,        // a product that does not come about any more
    made_elsewhere,  // a product at a place that does not follow from the move
    newly_made,
    not_run,          // a program that the build makes or the tree holds, such as a test
    ended_otherwise,  // such a program that ended with another status
    warned            // a line with a new warning in the build's log
  };
  Kind kind = Kind::not_read;
  bool breaks = false;                          // holds the move back; else it is only told
  RelPath before, after;                        // the file, as far as it is there
  std::string command;                          // that read, made or ran it; the line of the log
  std::string folder;                           // where that was started, "." for the root
  int status_before = 0, status_after = 0;      // of a program that ended otherwise
  std::size_t runs_before = 0, runs_after = 0;  // of one that is not run, or not as often
};

// What the build does otherwise. `moves` and `changes` are what lies between; what they make or take away is
// expected to be read or not. What breaks comes first.
std::vector<Difference> compare_observations(const Observation& before, const Observation& after,
                                             const MoveSet& moves, const FileChanges& changes);

// Warnings that only the log after the move has, each one once; the same one about another file is not new.
std::vector<Difference> new_warnings(const std::string& log_before, const std::string& log_after);

}  // namespace yc
