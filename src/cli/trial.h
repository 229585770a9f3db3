// Building in copies, before a move and after it, for the commands that do so.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "cli/session.h"
#include "plan/plan.h"
#include "rehearse/rehearsal.h"

namespace yc::cli {

struct TrialOptions {
  std::vector<std::string> commands;
  double seconds = 0;  // for each build; 0: no limit
  bool keep = false;   // the copies
  bool watch = false;
};

// The words after "--" as one line for the shell; without any, the builds that the configuration names.
std::vector<std::string> build_commands(const Session& session);
// Adds --time-limit and --keep.
void add_trial_options(CLI::App& command, TrialOptions& own);

// Rehearses, showing on a terminal what goes on. Where builds cannot be watched it says so and goes on
// without. What was observed is kept: of a plan that is about to be `carried_out` as it is after the move,
// else before it.
Result<std::vector<Rehearsed>> try_builds(const Session& session, const TreeReader& start, const Plan* plan,
                                          TrialOptions own);
// Keeps what was observed of the tree as it is now. Where that fails it says so and goes on: what the builds
// showed holds all the same.
void keep_observed(const Session& session, const std::vector<Rehearsed>& builds, bool is_moved);

}  // namespace yc::cli
