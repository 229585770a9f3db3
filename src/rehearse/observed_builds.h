// The observations of a tree's builds, kept in its state folder: for each build command the last one.
#pragma once

#include <vector>

#include "carry/state.h"
#include "observe/observation.h"

namespace yc {

// Signs what it writes; waits for nobody: fails if another process changes the tree at the moment.
Status keep_observation(FileSystem& disk, const StatePlace& place, const Observation& observation);

// All that are kept in the form that this version writes; others are passed over. One that is not signed by
// this user on this machine is an error.
Result<std::vector<Observation>> kept_observations(FileSystem& disk, const StatePlace& place);

}  // namespace yc
