#include "carry/locked_state.h"

#include "carry/recovery.h"

namespace yc {

Result<LockedState> lock_state(FileSystem& disk, const StatePlace& place) {
  auto state = State::open(disk, place);
  if (!state) return state.error();
  if (Status ok = state->make(disk); !ok) return ok.error();
  auto lock = Lock::take(disk, state->folder());
  if (!lock) return lock.error();
  if (Status ok = state->sign_folder(disk); !ok) return ok.error();
  auto open = unfinished(disk, *state);
  if (!open) return open.error();
  if (*open) return unfinished_error(**open);
  return LockedState{std::move(*state), std::move(*lock)};
}

}  // namespace yc
