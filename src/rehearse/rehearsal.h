// A move tried out: the project's own build, in clean copies, before the move and after it.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "observe/compare.h"
#include "observe/observation.h"
#include "plan/plan.h"
#include "rehearse/build_run.h"
#include "rehearse/explain.h"
#include "tree/disk_tree.h"

namespace yc {

struct RehearsalOptions {
  std::vector<std::string> commands;  // each is run in copies of its own
  std::string logs;                   // existing folder for the logs
  double seconds = 0;                 // for each build; 0: no limit
  bool keep = false;                  // leave the copies where they are
  bool watch = false;                 // observe the builds and compare what they read and make
  std::vector<RelPath> installed;     // ignored folders that the copies get, from the disk
  // Is told what is going on and the seconds it has taken; may be empty.
  std::function<void(const std::string&, double)> progress;
};

enum class Verdict {
  built,    // before and after; or as it is, if nothing moves
  differs,  // before and after, but it reads, makes or runs something else
  broke,    // before, but not after
  never,    // not even before
};

struct Rehearsed {
  std::string command;
  Verdict verdict = Verdict::never;
  BuildRun before;
  std::optional<BuildRun> after;  // if anything moves and the build before succeeded
  std::vector<Telling> telling;   // of the build that failed
  // If they were watched: what was seen, and the difference between both.
  std::optional<Observation> seen_before, seen_after;
  std::vector<Difference> differences;
  std::optional<BuildRun> again;  // in the copy that was built before the move, which was then moved in
  std::vector<std::string> kept;  // folders of the copies
};

// `start` is the tree before the move: the working tree, or a commit. `disk` gives permissions. With a null
// `plan` nothing moves.
Result<std::vector<Rehearsed>> rehearse(const TreeReader& start, const DiskTree& disk, const Plan* plan,
                                        const RehearsalOptions& options);

}  // namespace yc
