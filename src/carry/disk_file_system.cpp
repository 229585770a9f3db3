#include <dirent.h>
#include <fcntl.h>
#include <sys/stat.h>
#include <sys/xattr.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <cstring>

#include "carry/digest.h"
#include "carry/file_system.h"

namespace yc {

namespace {

Error failure(const std::string& path, const std::string& what) {
  return Error{Failure::io, path, what + ": " + why_not_opened(errno), ""};
}

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
void copy_attributes(const Handle& from, const Handle& to) {
  ssize_t size = flistxattr(from.get(), nullptr, 0);
  if (size <= 0) return;
  std::string names(static_cast<std::size_t>(size), '\0');
  size = flistxattr(from.get(), names.data(), names.size());
  for (std::size_t at = 0; size > 0 && at < static_cast<std::size_t>(size);) {
    const char* name = names.c_str() + at;
    at += std::strlen(name) + 1;
    ssize_t length = fgetxattr(from.get(), name, nullptr, 0);
    if (length < 0) continue;
    std::string value(static_cast<std::size_t>(length), '\0');
    length = fgetxattr(from.get(), name, value.data(), value.size());
    if (length >= 0) (void)fsetxattr(to.get(), name, value.data(), static_cast<std::size_t>(length), 0);
  }
}

constexpr int kReading = O_RDONLY | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC;
constexpr int kWriting = O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC;

}  // namespace

DiskFileSystem::DiskFileSystem(const std::vector<std::string>& folders) {
  for (const std::string& folder : folders) {
    if (auto open = Beneath::open(folder)) folders_.push_back(std::move(*open));
  }
}

const Beneath* DiskFileSystem::around(const std::string& path, std::string& below) const {
  const Beneath* best = nullptr;
  for (const Beneath& folder : folders_) {
    const std::string& name = folder.folder();
    bool is_in = path == name || name == "/" || path.compare(0, name.size() + 1, name + "/") == 0;
    if (is_in && (!best || name.size() > best->folder().size())) best = &folder;
  }
  if (!best) return nullptr;
  below = path == best->folder() ? "" : path.substr(best->folder() == "/" ? 1 : best->folder().size() + 1);
  return best;
}

DiskFileSystem::Spot DiskFileSystem::spot(const std::string& path) const {
  std::string below;
  const Beneath* folder = around(path, below);
  if (!folder) {
    errno = EXDEV;  // as the system says of paths that lead out of a folder
    return {};
  }
  if (below.empty()) return {folder->open_at("", O_PATH | O_DIRECTORY), "."};
  std::string name = last_name(below);
  if (name.empty() || name == "." || name == "..") {
    errno = EINVAL;
    return {};
  }
  return {folder->parent_of(below), std::move(name)};
}

Result<std::string> DiskFileSystem::read(const std::string& path) {
  std::string below;
  const Beneath* folder = around(path, below);
  if (!folder) return Error{Failure::io, path, "cannot be read: it lies outside of the tree", ""};
  auto bytes = read_beneath(*folder, below, std::numeric_limits<std::uint64_t>::max());
  if (bytes) return bytes;
  Error error = bytes.error();
  error.place = path;
  error.next.clear();
  return error;
}

Result<std::string> DiskFileSystem::digest(const std::string& path) {
  auto about = info(path);
  if (!about) return about.error();
  if (about->kind == EntryKind::folder || about->is_special)
    return Error{Failure::io, path, "is no plain file", ""};
  Digest digest;
  if (about->kind == EntryKind::link) {
    auto text = read(path);
    if (!text) return text.error();
    digest.add(*text);
    return digest.text();
  }
  Spot here = spot(path);
  Handle handle(here ? openat(here.folder.get(), here.at(), kReading) : -1);
  if (!handle) return failure(path, "cannot be read");
  std::string buffer(std::size_t{1} << 17, '\0');
  while (true) {
    ssize_t got = ::read(handle.get(), buffer.data(), buffer.size());
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return failure(path, "cannot be read");
    if (got == 0) return digest.text();
    digest.add(std::string_view(buffer).substr(0, static_cast<std::size_t>(got)));
  }
}

bool DiskFileSystem::exists(const std::string& path) {
  struct stat info {};
  Spot here = spot(path);
  return here && fstatat(here.folder.get(), here.at(), &info, AT_SYMLINK_NOFOLLOW) == 0;
}

Result<FileInfo> DiskFileSystem::info(const std::string& path) {
  struct stat info {};
  Spot here = spot(path);
  if (!here || fstatat(here.folder.get(), here.at(), &info, AT_SYMLINK_NOFOLLOW) != 0)
    return failure(path, "cannot be looked at");
  FileInfo out;
  out.kind = S_ISDIR(info.st_mode)   ? EntryKind::folder
             : S_ISLNK(info.st_mode) ? EntryKind::link
                                     : EntryKind::file;
  out.is_special = out.kind == EntryKind::file && !S_ISREG(info.st_mode);
  out.mode = static_cast<unsigned>(info.st_mode & 07777);
  out.owner = info.st_uid;
  out.device = info.st_dev;
  out.inode = info.st_ino;
  out.names = info.st_nlink;
  out.size = static_cast<std::uint64_t>(info.st_size);
  out.mtime_ns = info.st_mtim.tv_sec * 1'000'000'000LL + info.st_mtim.tv_nsec;
  return out;
}

Result<std::vector<std::string>> DiskFileSystem::list(const std::string& folder) {
  Spot here = spot(folder);
  Handle handle(here ? openat(here.folder.get(), here.at(), kReading | O_DIRECTORY) : -1);
  DIR* stream = handle ? fdopendir(handle.get()) : nullptr;
  if (!stream) return failure(folder, "cannot be listed");
  (void)handle.release();  // the stream's now
  std::vector<std::string> out;
  while (const dirent* item = readdir(stream)) {
    std::string name = item->d_name;
    if (name != "." && name != "..") out.push_back(std::move(name));
  }
  closedir(stream);
  std::sort(out.begin(), out.end());
  return out;
}

Status DiskFileSystem::write_new(const std::string& path, const std::string& bytes, unsigned mode) {
  Spot here = spot(path);
  Handle handle(here ? openat(here.folder.get(), here.at(), kWriting, 0600) : -1);
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
  Spot pattern = spot(model), here = spot(path);
  if (!pattern || fstatat(pattern.folder.get(), pattern.at(), &info, AT_SYMLINK_NOFOLLOW) != 0)
    return failure(model, "cannot be looked at");
  if (S_ISLNK(info.st_mode)) {
    if (!here || symlinkat(bytes.c_str(), here.folder.get(), here.at()) != 0)
      return failure(path, "cannot be made");
    (void)fchownat(here.folder.get(), here.at(), info.st_uid, info.st_gid, AT_SYMLINK_NOFOLLOW);
    return {};
  }
  Handle handle(here ? openat(here.folder.get(), here.at(), kWriting, 0600) : -1);
  if (!handle) return failure(path, "cannot be written");
  if (Status ok = put(handle, path, bytes); !ok) return ok;
  // The owner first: giving a file away takes special permission bits from it.
  (void)fchown(handle.get(), info.st_uid, info.st_gid);
  if (Handle from(openat(pattern.folder.get(), pattern.at(), kReading)); from) copy_attributes(from, handle);
  if (fchmod(handle.get(), info.st_mode & 07777) != 0)
    return failure(path, "cannot be given its permissions");
  if (fsync(handle.get()) != 0) return failure(path, "cannot be synced");
  if (handle.close() != 0) return failure(path, "cannot be closed");
  return {};
}

Status DiskFileSystem::link(const std::string& from, const std::string& to) {
  Spot old_spot = spot(from), new_spot = spot(to);
  if (!old_spot || !new_spot) return failure(to, "cannot be made");
  if (linkat(old_spot.folder.get(), old_spot.at(), new_spot.folder.get(), new_spot.at(), 0) == 0) return {};
  if (errno != EPERM && errno != EOPNOTSUPP && errno != EMLINK && errno != EXDEV)
    return failure(to, "cannot be made");
  auto bytes = read(from);
  if (!bytes) return bytes.error();
  if (Status ok = write_like(to, *bytes, from); !ok) return ok;
  struct stat info {};
  if (fstatat(old_spot.folder.get(), old_spot.at(), &info, AT_SYMLINK_NOFOLLOW) != 0)
    return failure(from, "cannot be looked at");
  timespec times[2] = {info.st_atim, info.st_mtim};
  (void)utimensat(new_spot.folder.get(), new_spot.at(), times, AT_SYMLINK_NOFOLLOW);
  return {};
}

Status DiskFileSystem::make_folder(const std::string& path, unsigned mode) {
  Spot here = spot(path);
  if (!here || mkdirat(here.folder.get(), here.at(), 0777) != 0) return failure(path, "cannot be made");
  if (mode == 0) return {};
  Handle made(openat(here.folder.get(), here.at(), kReading | O_DIRECTORY));
  if (!made || fchmod(made.get(), mode) != 0) return failure(path, "cannot be given its permissions");
  return {};
}

Status DiskFileSystem::remove_folder(const std::string& path) {
  Spot here = spot(path);
  bool gone = here && unlinkat(here.folder.get(), here.at(), AT_REMOVEDIR) == 0;
  return gone ? Status() : failure(path, "cannot be removed");
}

Status DiskFileSystem::remove_file(const std::string& path) {
  Spot here = spot(path);
  bool gone = here && unlinkat(here.folder.get(), here.at(), 0) == 0;
  return gone ? Status() : failure(path, "cannot be removed");
}

Status DiskFileSystem::rename(const std::string& from, const std::string& to) {
  Spot old_spot = spot(from), new_spot = spot(to);
  bool done = old_spot && new_spot &&
              renameat(old_spot.folder.get(), old_spot.at(), new_spot.folder.get(), new_spot.at()) == 0;
  return done ? Status() : failure(from, "cannot be moved to " + to);
}

Status DiskFileSystem::rename_new(const std::string& from, const std::string& to) {
  Spot old_spot = spot(from), new_spot = spot(to);
  if (!old_spot || !new_spot) return failure(from, "cannot be moved to " + to);
  if (renameat2(old_spot.folder.get(), old_spot.at(), new_spot.folder.get(), new_spot.at(),
                RENAME_NOREPLACE) == 0)
    return {};
  if (errno == EEXIST) return Error{Failure::io, to, "appeared meanwhile and is not overwritten", ""};
  if (errno != EINVAL && errno != ENOSYS) return failure(from, "cannot be moved to " + to);
  // A file system that cannot promise it: look first.
  if (exists(to)) return Error{Failure::io, to, "appeared meanwhile and is not overwritten", ""};
  return rename(from, to);
}

Result<bool> DiskFileSystem::exchange(const std::string& one, const std::string& other) {
  Spot first = spot(one), second = spot(other);
  if (first && second) {
    if (renameat2(first.folder.get(), first.at(), second.folder.get(), second.at(), RENAME_EXCHANGE) == 0)
      return true;
    if (errno == EINVAL || errno == ENOSYS) return false;
  }
  return failure(one, "cannot be exchanged with " + other);
}

Status DiskFileSystem::touch(const std::string& path) {
  Spot here = spot(path);
  timespec times[2] = {{0, UTIME_OMIT}, {0, UTIME_NOW}};
  bool done = here && utimensat(here.folder.get(), here.at(), times, AT_SYMLINK_NOFOLLOW) == 0;
  return done ? Status() : failure(path, "cannot be given the time of its change");
}

Status DiskFileSystem::sync_file(const std::string& path) {
  Spot here = spot(path);
  Handle handle(here ? openat(here.folder.get(), here.at(), kReading) : -1);
  if (!handle) return failure(path, "cannot be opened");
  return fsync(handle.get()) == 0 ? Status() : failure(path, "cannot be synced");
}

Status DiskFileSystem::sync_folder(const std::string& path) {
  Spot here = spot(path);
  Handle handle(here ? openat(here.folder.get(), here.at(), kReading | O_DIRECTORY) : -1);
  if (!handle) return failure(path, "cannot be opened");
  return fsync(handle.get()) == 0 ? Status() : failure(path, "cannot be synced");
}

Result<Handle> DiskFileSystem::open_lock(const std::string& path, bool make) {
  int flags = (make ? O_RDWR | O_CREAT : O_RDONLY) | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC;
  Spot here = spot(path);
  Handle handle(here ? openat(here.folder.get(), here.at(), flags, 0644) : -1);
  if (!handle) return failure(path, "cannot be opened");
  struct stat info {};
  if (fstat(handle.get(), &info) != 0) return failure(path, "cannot be looked at");
  if (!S_ISREG(info.st_mode) || info.st_nlink > 1)
    return Error{Failure::unsettled, path, "is no plain file of its own",
                 "look what it is, and move it away"};
  return handle;
}

}  // namespace yc
