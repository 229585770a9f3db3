// Only one program changes a tree at a time.
#pragma once

#include <optional>
#include <string>

#include "carry/file_system.h"

namespace yc {

// Holds the file `lock` of a state folder locked (flock) for as long as it lives. The kernel frees the lock
// of a process that died, so none is ever stale; the file stays and names its last owner.
class Lock {
 public:
  // Failure::unsettled, with the owner's process and how long it has had it, when another process holds it.
  static Result<Lock> take(FileSystem& disk, const std::string& state);

 private:
  explicit Lock(Handle handle) : handle_(std::move(handle)) {}
  Handle handle_;
};

// What a message says of a process that holds the lock right now; nothing if none does.
std::optional<std::string> lock_owner(FileSystem& disk, const std::string& state);

}  // namespace yc
