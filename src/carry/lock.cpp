#include "carry/lock.h"

#include <fmt/format.h>
#include <sys/file.h>
#include <unistd.h>

#include <algorithm>
#include <cstdio>
#include <ctime>

namespace yc {

namespace {

struct Owner {
  bool is_told = false;  // the file holds what a lock holds, and nothing else
  long process = 0;
  long long since = 0;
};

// "PID TIME" and a line end, as the owner wrote it.
Owner owner_in(const Handle& handle) {
  char text[64] = {};
  ssize_t size = pread(handle.get(), text, sizeof text - 1, 0);
  Owner out;
  int used = 0;
  out.is_told =
      size > 0 && std::sscanf(text, "%ld %lld\n%n", &out.process, &out.since, &used) == 2 && used == size;
  return out;
}

std::string described(const Handle& handle) {
  Owner owner = owner_in(handle);
  if (!owner.is_told) return "another process";
  return fmt::format("process {} (for {} s now)", owner.process,
                     std::max<long long>(0, std::time(nullptr) - owner.since));
}

}  // namespace

Result<Lock> Lock::take(FileSystem& disk, const std::string& state) {
  std::string path = state + "/lock";
  auto handle = disk.open_lock(path, true);
  if (!handle) return handle.error();
  Lock out(std::move(*handle));
  const Handle& file = out.handle_;
  // A question who holds it takes it for a moment; that is waited for.
  bool held = false;
  for (int tries = 0; tries < 20 && !held; ++tries) {
    if (tries > 0) usleep(10'000);
    held = flock(file.get(), LOCK_EX | LOCK_NB) == 0;
  }
  if (!held) {
    return Error{Failure::unsettled, path, fmt::format("{} is changing this tree", described(file)),
                 "wait for it and try again"};
  }
  // Only for messages, so a full disk does not matter. What is no lock's text is somebody's, and stays.
  char first = 0;
  bool is_ours = pread(file.get(), &first, 1, 0) == 0 || owner_in(file).is_told;
  std::string text = fmt::format("{} {}\n", getpid(), std::time(nullptr));
  if (is_ours && ftruncate(file.get(), 0) == 0) (void)!pwrite(file.get(), text.data(), text.size(), 0);
  return out;
}

std::optional<std::string> lock_owner(FileSystem& disk, const std::string& state) {
  auto handle = disk.open_lock(state + "/lock", false);
  if (!handle) return std::nullopt;
  std::optional<std::string> out;
  if (flock(handle->get(), LOCK_SH | LOCK_NB) != 0) out = described(*handle);
  return out;
}

}  // namespace yc
