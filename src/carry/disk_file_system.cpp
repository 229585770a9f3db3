#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdio>
#include <cstring>

#include "carry/file_system.h"

namespace yc {

namespace {

Error failure(const std::string& path, const std::string& what) {
  return Error{Failure::io, path, what + ": " + std::strerror(errno), ""};
}

// A file handle that is closed on every way out.
class Handle {
 public:
  explicit Handle(int number) : number_(number) {}
  ~Handle() {
    if (number_ >= 0) ::close(number_);
  }
  Handle(const Handle&) = delete;
  Handle& operator=(const Handle&) = delete;
  explicit operator bool() const { return number_ >= 0; }
  int get() const { return number_; }
  int close() {
    int result = ::close(number_);
    number_ = -1;
    return result;
  }

 private:
  int number_;
};

}  // namespace

Result<std::string> DiskFileSystem::read(const std::string& path) {
  struct stat info {};
  if (lstat(path.c_str(), &info) != 0) return failure(path, "cannot be read");
  std::string out;
  if (S_ISLNK(info.st_mode)) {
    out.resize(static_cast<std::size_t>(info.st_size) + 1);
    ssize_t size = readlink(path.c_str(), out.data(), out.size());
    if (size < 0) return failure(path, "cannot be read");
    out.resize(static_cast<std::size_t>(size));
    return out;
  }
  Handle handle(open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW));
  if (!handle) return failure(path, "cannot be read");
  char buffer[65536];
  while (true) {
    ssize_t got = ::read(handle.get(), buffer, sizeof buffer);
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return failure(path, "cannot be read");
    if (got == 0) return out;
    out.append(buffer, static_cast<std::size_t>(got));
  }
}

bool DiskFileSystem::exists(const std::string& path) {
  struct stat info {};
  return lstat(path.c_str(), &info) == 0;
}

Result<unsigned> DiskFileSystem::mode(const std::string& path) {
  struct stat info {};
  if (lstat(path.c_str(), &info) != 0) return failure(path, "cannot be looked at");
  return static_cast<unsigned>(info.st_mode & 07777);
}

Result<unsigned long long> DiskFileSystem::device(const std::string& path) {
  struct stat info {};
  if (lstat(path.c_str(), &info) != 0) return failure(path, "cannot be looked at");
  return static_cast<unsigned long long>(info.st_dev);
}

Status DiskFileSystem::write_new(const std::string& path, const std::string& bytes, unsigned mode) {
  Handle handle(open(path.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0600));
  if (!handle) return failure(path, "cannot be written");
  std::size_t at = 0;
  while (at < bytes.size()) {
    ssize_t put = ::write(handle.get(), bytes.data() + at, bytes.size() - at);
    if (put < 0 && errno == EINTR) continue;
    if (put < 0) return failure(path, "cannot be written");
    at += static_cast<std::size_t>(put);
  }
  if (fchmod(handle.get(), mode) != 0) return failure(path, "cannot be given its permissions");
  if (fsync(handle.get()) != 0) return failure(path, "cannot be synced");
  if (handle.close() != 0) return failure(path, "cannot be closed");
  return {};
}

Status DiskFileSystem::make_folder(const std::string& path) {
  return mkdir(path.c_str(), 0777) == 0 ? Status() : failure(path, "cannot be made");
}

Status DiskFileSystem::remove_folder(const std::string& path) {
  return rmdir(path.c_str()) == 0 ? Status() : failure(path, "cannot be removed");
}

Status DiskFileSystem::remove_file(const std::string& path) {
  return unlink(path.c_str()) == 0 ? Status() : failure(path, "cannot be removed");
}

Status DiskFileSystem::rename(const std::string& from, const std::string& to) {
  return std::rename(from.c_str(), to.c_str()) == 0 ? Status() : failure(from, "cannot be moved to " + to);
}

Status DiskFileSystem::sync_folder(const std::string& path) {
  Handle handle(open(path.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
  if (!handle) return failure(path, "cannot be opened");
  return fsync(handle.get()) == 0 ? Status() : failure(path, "cannot be synced");
}

}  // namespace yc
