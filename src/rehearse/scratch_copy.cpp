#include "rehearse/scratch_copy.h"

#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <functional>

namespace yc {

Status write_copy(const TreeReader& tree, const std::string& folder, const DiskTree* modes,
                  const std::function<RelPath(const RelPath&)>& old_path) {
  namespace fs = std::filesystem;
  for (const RelPath& path : tree.files()) {
    const Entry* entry = tree.find(path);
    if (!entry || entry->guarded) continue;
    auto bytes = tree.read(path);
    if (!bytes) return bytes.error();
    fs::path full = fs::path(folder) / path.str();
    std::error_code error;
    fs::create_directories(full.parent_path(), error);
    auto failure = [&] {
      return Error{Failure::io, full.string(), std::string("cannot be written: ") + std::strerror(errno), ""};
    };
    if (entry->kind == EntryKind::link) {
      if (symlink((*bytes)->c_str(), full.c_str()) != 0) return failure();
      continue;
    }
    std::ofstream out(full, std::ios::binary);
    out.write((*bytes)->data(), static_cast<std::streamsize>((*bytes)->size()));
    out.close();
    if (!out) return failure();
    struct stat info {};
    if (modes && lstat(modes->absolute(old_path(path)).c_str(), &info) == 0)
      (void)chmod(full.c_str(), info.st_mode & 07777);
  }
  return {};
}

}  // namespace yc
