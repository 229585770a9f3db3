#include "tree/beneath.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <linux/openat2.h>
#include <sys/stat.h>
#include <sys/syscall.h>

#include <cerrno>
#include <cstring>

namespace yc {

namespace {

// One part after the other, each opened as itself: what openat2 does in one call where the system has it.
int walk(int folder, const std::string& below, int flags) {
  Handle here(fcntl(folder, F_DUPFD_CLOEXEC, 0));
  for (std::size_t at = 0; here;) {
    std::size_t end = below.find('/', at);
    if (end == std::string::npos)
      return openat(here.get(), below.substr(at).c_str(), flags | O_NOFOLLOW | O_CLOEXEC);
    Handle next(openat(here.get(), below.substr(at, end - at).c_str(),
                       O_PATH | O_DIRECTORY | O_NOFOLLOW | O_CLOEXEC));
    here = std::move(next);
    at = end + 1;
  }
  return -1;
}

int open_below(int folder, const std::string& below, int flags, std::uint64_t resolve) {
  open_how how{};
  // Reading a pipe that nobody writes would wait for ever; plain files do not mind.
  how.flags = static_cast<std::uint64_t>(flags | O_CLOEXEC | O_NOFOLLOW);
  if ((flags & O_PATH) == 0) how.flags |= O_NONBLOCK;
  how.resolve = resolve | RESOLVE_NO_SYMLINKS | RESOLVE_NO_MAGICLINKS;
  for (int tries = 0; tries < 8; ++tries) {
    long got = syscall(SYS_openat2, folder, below.c_str(), &how, sizeof how);
    if (got >= 0) return static_cast<int>(got);
    if (errno == EAGAIN || errno == EINTR) continue;  // something was renamed meanwhile
    // Old systems, and such as forbid calls that they do not know.
    if (errno == ENOSYS || errno == EPERM) return walk(folder, below, static_cast<int>(how.flags));
    return -1;
  }
  return -1;
}

// Whether every part is a name.
bool is_plain(const std::string& below) {
  for (std::size_t at = 0; at <= below.size();) {
    std::size_t end = std::min(below.find('/', at), below.size());
    std::string_view part = std::string_view(below).substr(at, end - at);
    if (part.empty() || part == "." || part == ".." || part.find('\0') != std::string_view::npos)
      return false;
    at = end + 1;
  }
  return true;
}

}  // namespace

Result<Beneath> Beneath::open(const std::string& folder) {
  Beneath out;
  out.folder_ = folder;
  Handle top(::open("/", O_PATH | O_DIRECTORY | O_CLOEXEC));
  if (folder == "/") {
    out.handle_ = std::move(top);
  } else if (top) {
    out.handle_ = Handle(open_below(top.get(), folder.substr(1), O_PATH | O_DIRECTORY, 0));
  }
  if (!out.handle_) return Error{Failure::io, folder, "cannot be opened: " + why_not_opened(errno), ""};
  return out;
}

Handle Beneath::open_at(const std::string& below, int flags) const {
  if (!handle_) {
    errno = EBADF;
    return Handle();
  }
  if (below.empty()) return Handle(openat(handle_.get(), ".", flags | O_CLOEXEC));
  if (!is_plain(below)) {
    errno = EINVAL;
    return Handle();
  }
  return Handle(open_below(handle_.get(), below, flags, RESOLVE_BENEATH));
}

Handle Beneath::parent_of(const std::string& below) const {
  std::size_t cut = below.rfind('/');
  return open_at(cut == std::string::npos ? "" : below.substr(0, cut), O_PATH | O_DIRECTORY);
}

std::string last_name(const std::string& path) {
  return path.substr(path.rfind('/') + 1);
}

std::string why_not_opened(int error) {
  if (error == ELOOP) return "a symbolic link is on the way, and none is followed";
  return std::strerror(error);
}

Result<std::string> read_beneath(const Beneath& from, const std::string& below, std::uint64_t limit) {
  auto fail = [&](const std::string& what) {
    return Error{Failure::io, below, "cannot be read: " + what, "check that it can be read"};
  };
  Handle parent = from.parent_of(below);
  if (!parent) return fail(why_not_opened(errno));
  std::string name = last_name(below);
  struct stat info {};
  if (fstatat(parent.get(), name.c_str(), &info, AT_SYMLINK_NOFOLLOW) != 0) return fail(std::strerror(errno));
  std::string out;
  if (S_ISLNK(info.st_mode)) {
    out.resize(static_cast<std::size_t>(info.st_size) + 1);
    ssize_t size = readlinkat(parent.get(), name.c_str(), out.data(), out.size());
    if (size < 0) return fail(std::strerror(errno));
    out.resize(static_cast<std::size_t>(size));
    return out;
  }
  Handle handle(openat(parent.get(), name.c_str(), O_RDONLY | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC));
  if (!handle) return fail(why_not_opened(errno));
  if (fstat(handle.get(), &info) != 0) return fail(std::strerror(errno));
  if (S_ISDIR(info.st_mode)) return fail(std::strerror(EISDIR));
  if (!S_ISREG(info.st_mode)) return fail("it is a pipe, a socket or a device, not a file");
  if (static_cast<std::uint64_t>(info.st_size) > limit)
    return fail(fmt::format("it has {} bytes, and files of more than {} are not read", info.st_size, limit));
  // One more byte than expected: a short read then tells the end, a full one a file that grew.
  out.resize(static_cast<std::size_t>(info.st_size) + 1);
  std::size_t at = 0;
  while (true) {
    if (at == out.size()) {
      if (out.size() > limit) return fail(fmt::format("files of more than {} bytes are not read", limit));
      out.resize(at * 2);
    }
    ssize_t got = ::read(handle.get(), out.data() + at, out.size() - at);
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return fail(std::strerror(errno));
    at += static_cast<std::size_t>(got);
    if (got == 0 || (at < out.size() && at == static_cast<std::size_t>(info.st_size))) break;
  }
  out.resize(at);
  return out;
}

}  // namespace yc
