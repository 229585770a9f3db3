#include "carry/lock.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/file.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <ctime>

namespace yc {

namespace {

// "PID TIME" as the owner wrote it, as words for a person.
std::string described(int handle) {
  char text[64] = {};
  ssize_t size = pread(handle, text, sizeof text - 1, 0);
  long process = 0;
  long long since = 0;
  if (size <= 0 || std::sscanf(text, "%ld %lld", &process, &since) != 2) return "another process";
  return fmt::format("process {} (for {} s now)", process,
                     std::max<long long>(0, std::time(nullptr) - since));
}

}  // namespace

Result<Lock> Lock::take(const std::string& state) {
  std::string path = state + "/lock";
  int handle = open(path.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0644);
  if (handle < 0)
    return Error{Failure::io, path, fmt::format("cannot be opened: {}", std::strerror(errno)), ""};
  Lock out(handle);
  // A question who holds it takes it for a moment; that is waited for.
  bool held = false;
  for (int tries = 0; tries < 20 && !held; ++tries) {
    if (tries > 0) usleep(10'000);
    held = flock(handle, LOCK_EX | LOCK_NB) == 0;
  }
  if (!held) {
    return Error{Failure::unsettled, path, fmt::format("{} is changing this tree", described(handle)),
                 "wait for it and try again"};
  }
  std::string text = fmt::format("{} {}\n", getpid(), std::time(nullptr));
  // Only for messages, so a full disk does not matter.
  if (ftruncate(handle, 0) == 0) (void)!pwrite(handle, text.data(), text.size(), 0);
  return out;
}

Lock::~Lock() {
  if (handle_ >= 0) close(handle_);
}

std::optional<std::string> lock_owner(const std::string& state) {
  int handle = open((state + "/lock").c_str(), O_RDONLY | O_CLOEXEC);
  if (handle < 0) return std::nullopt;
  std::optional<std::string> out;
  if (flock(handle, LOCK_SH | LOCK_NB) != 0) out = described(handle);
  close(handle);
  return out;
}

}  // namespace yc
