#include <dirent.h>
#include <fcntl.h>
#include <sys/stat.h>
#include <sys/xattr.h>
#include <unistd.h>

#include <algorithm>
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

Status put(const Handle& handle, const std::string& path, const std::string& bytes) {
  std::size_t at = 0;
  while (at < bytes.size()) {
    ssize_t written = ::write(handle.get(), bytes.data() + at, bytes.size() - at);
    if (written < 0 && errno == EINTR) continue;
    if (written < 0) return failure(path, "cannot be written");
    at += static_cast<std::size_t>(written);
  }
  return {};
}

// Extended attributes, as far as this user may set them; without them a file is still the file.
void copy_attributes(const std::string& from, const std::string& to) {
  ssize_t size = llistxattr(from.c_str(), nullptr, 0);
  if (size <= 0) return;
  std::string names(static_cast<std::size_t>(size), '\0');
  size = llistxattr(from.c_str(), names.data(), names.size());
  for (std::size_t at = 0; size > 0 && at < static_cast<std::size_t>(size);) {
    const char* name = names.c_str() + at;
    at += std::strlen(name) + 1;
    ssize_t length = lgetxattr(from.c_str(), name, nullptr, 0);
    if (length < 0) continue;
    std::string value(static_cast<std::size_t>(length), '\0');
    length = lgetxattr(from.c_str(), name, value.data(), value.size());
    if (length >= 0) (void)lsetxattr(to.c_str(), name, value.data(), static_cast<std::size_t>(length), 0);
  }
}

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

Result<FileInfo> DiskFileSystem::info(const std::string& path) {
  struct stat info {};
  if (lstat(path.c_str(), &info) != 0) return failure(path, "cannot be looked at");
  FileInfo out;
  out.kind = S_ISDIR(info.st_mode)   ? EntryKind::folder
             : S_ISLNK(info.st_mode) ? EntryKind::link
                                     : EntryKind::file;
  out.mode = static_cast<unsigned>(info.st_mode & 07777);
  out.device = info.st_dev;
  out.inode = info.st_ino;
  out.names = info.st_nlink;
  out.size = static_cast<std::uint64_t>(info.st_size);
  return out;
}

Result<std::vector<std::string>> DiskFileSystem::list(const std::string& folder) {
  DIR* handle = opendir(folder.c_str());
  if (!handle) return failure(folder, "cannot be listed");
  std::vector<std::string> out;
  while (const dirent* item = readdir(handle)) {
    std::string name = item->d_name;
    if (name != "." && name != "..") out.push_back(std::move(name));
  }
  closedir(handle);
  std::sort(out.begin(), out.end());
  return out;
}

Status DiskFileSystem::write_new(const std::string& path, const std::string& bytes, unsigned mode) {
  Handle handle(open(path.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0600));
  if (!handle) return failure(path, "cannot be written");
  if (Status ok = put(handle, path, bytes); !ok) return ok;
  if (fchmod(handle.get(), mode) != 0) return failure(path, "cannot be given its permissions");
  if (fsync(handle.get()) != 0) return failure(path, "cannot be synced");
  if (handle.close() != 0) return failure(path, "cannot be closed");
  return {};
}

Status DiskFileSystem::write_like(const std::string& path, const std::string& bytes,
                                  const std::string& model) {
  struct stat info {};
  if (lstat(model.c_str(), &info) != 0) return failure(model, "cannot be looked at");
  if (S_ISLNK(info.st_mode)) {
    if (symlink(bytes.c_str(), path.c_str()) != 0) return failure(path, "cannot be made");
    (void)lchown(path.c_str(), info.st_uid, info.st_gid);
    return {};
  }
  Handle handle(open(path.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0600));
  if (!handle) return failure(path, "cannot be written");
  if (Status ok = put(handle, path, bytes); !ok) return ok;
  // The owner first: giving a file away takes special permission bits from it.
  (void)fchown(handle.get(), info.st_uid, info.st_gid);
  copy_attributes(model, path);
  if (fchmod(handle.get(), info.st_mode & 07777) != 0)
    return failure(path, "cannot be given its permissions");
  if (fsync(handle.get()) != 0) return failure(path, "cannot be synced");
  if (handle.close() != 0) return failure(path, "cannot be closed");
  return {};
}

Status DiskFileSystem::link(const std::string& from, const std::string& to) {
  if (::link(from.c_str(), to.c_str()) == 0) return {};
  if (errno != EPERM && errno != EOPNOTSUPP && errno != EMLINK && errno != EXDEV)
    return failure(to, "cannot be made");
  auto bytes = read(from);
  if (!bytes) return bytes.error();
  if (Status ok = write_like(to, *bytes, from); !ok) return ok;
  struct stat info {};
  if (lstat(from.c_str(), &info) != 0) return failure(from, "cannot be looked at");
  timespec times[2] = {info.st_atim, info.st_mtim};
  (void)utimensat(AT_FDCWD, to.c_str(), times, AT_SYMLINK_NOFOLLOW);
  return {};
}

Status DiskFileSystem::make_folder(const std::string& path, unsigned mode) {
  if (mkdir(path.c_str(), 0777) != 0) return failure(path, "cannot be made");
  if (mode != 0 && chmod(path.c_str(), mode) != 0) return failure(path, "cannot be given its permissions");
  return {};
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

Status DiskFileSystem::rename_new(const std::string& from, const std::string& to) {
  if (renameat2(AT_FDCWD, from.c_str(), AT_FDCWD, to.c_str(), RENAME_NOREPLACE) == 0) return {};
  if (errno == EEXIST) return Error{Failure::io, to, "appeared meanwhile and is not overwritten", ""};
  if (errno != EINVAL && errno != ENOSYS) return failure(from, "cannot be moved to " + to);
  // A file system that cannot promise it: look first.
  if (exists(to)) return Error{Failure::io, to, "appeared meanwhile and is not overwritten", ""};
  return rename(from, to);
}

Status DiskFileSystem::sync_file(const std::string& path) {
  Handle handle(open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW));
  if (!handle) return failure(path, "cannot be opened");
  return fsync(handle.get()) == 0 ? Status() : failure(path, "cannot be synced");
}

Status DiskFileSystem::sync_folder(const std::string& path) {
  Handle handle(open(path.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
  if (!handle) return failure(path, "cannot be opened");
  return fsync(handle.get()) == 0 ? Status() : failure(path, "cannot be synced");
}

}  // namespace yc
