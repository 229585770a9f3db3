// The state folder of a tree, made and signed, with its lock: for whoever writes a journal.
#pragma once

#include "carry/lock.h"
#include "carry/state.h"

namespace yc {

struct LockedState {
  State state;
  Lock lock;
};
// Failure::unsettled if another process holds the lock, the folder is not to be believed, or an earlier move
// of the tree was not finished.
Result<LockedState> lock_state(FileSystem& disk, const StatePlace& place);

}  // namespace yc
