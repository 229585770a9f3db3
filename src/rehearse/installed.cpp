#include "rehearse/installed.h"

#include <algorithm>
#include <filesystem>
#include <set>

namespace yc {

namespace fs = std::filesystem;

std::vector<RelPath> installed_packages(const DiskTree& disk, const std::vector<RelPath>& named) {
  std::set<RelPath> found;
  auto take = [&](const RelPath& path) {
    const Entry* entry = disk.find(path);
    if (entry && entry->ignored && entry->kind == EntryKind::folder) found.insert(path);
  };
  for (const RelPath& path : disk.files()) {
    if (path.name() == "package.json") take(path.parent() / "node_modules");
  }
  for (const RelPath& path : named) take(path);
  std::vector<RelPath> out;
  for (const RelPath& path : found) {
    bool is_within =
        std::any_of(out.begin(), out.end(), [&](const RelPath& one) { return path.is_within(one); });
    if (!is_within) out.push_back(path);
  }
  return out;
}

Status copy_installed(const DiskTree& disk, const std::vector<RelPath>& packages, const std::string& folder) {
  for (const RelPath& path : packages) {
    fs::path to = fs::path(folder) / path.str();
    std::error_code error;
    fs::create_directories(to.parent_path(), error);
    if (!error)
      fs::copy(disk.absolute(path), to, fs::copy_options::recursive | fs::copy_options::copy_symlinks, error);
    if (error)
      return Error{Failure::io, disk.absolute(path), "cannot be copied for the build: " + error.message(),
                   ""};
  }
  return {};
}

}  // namespace yc
