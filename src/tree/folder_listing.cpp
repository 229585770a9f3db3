#include "tree/folder_listing.h"

#include <dirent.h>
#include <fcntl.h>

#include <algorithm>
#include <cerrno>
#include <cstring>

namespace yc {

namespace {

Entry entry_of(const struct stat& info) {
  Entry entry;
  entry.kind = S_ISDIR(info.st_mode)   ? EntryKind::folder
               : S_ISLNK(info.st_mode) ? EntryKind::link
                                       : EntryKind::file;
  entry.size = static_cast<std::uint64_t>(info.st_size);
  entry.names = info.st_nlink;
  entry.mtime_ns = info.st_mtim.tv_sec * 1'000'000'000LL + info.st_mtim.tv_nsec;
  return entry;
}

}  // namespace

Result<std::vector<Listed>> list_folder(const Beneath& root, const std::string& below) {
  Handle file = root.open_at(below, O_RDONLY | O_DIRECTORY);
  DIR* handle = file ? fdopendir(file.get()) : nullptr;
  if (!handle) return Error{Failure::io, below, why_not_opened(errno), "check the folder's permissions"};
  (void)file.release();  // the stream's now
  std::vector<Listed> out;
  while (const dirent* item = readdir(handle)) {
    std::string name = item->d_name;
    if (name == "." || name == "..") continue;
    struct stat info {};
    if (fstatat(dirfd(handle), item->d_name, &info, AT_SYMLINK_NOFOLLOW) != 0) continue;
    bool is_special = !S_ISREG(info.st_mode) && !S_ISDIR(info.st_mode) && !S_ISLNK(info.st_mode);
    out.push_back({std::move(name), entry_of(info), is_special});
  }
  closedir(handle);
  std::sort(out.begin(), out.end(), [](const Listed& a, const Listed& b) { return a.name < b.name; });
  return out;
}

}  // namespace yc
