#include "rehearse/scratch_copy.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <functional>

namespace yc {

namespace fs = std::filesystem;

Status write_copy(const TreeReader& tree, const std::string& folder, const CopyFrom& from) {
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
    const Entry* was = from.disk ? from.disk->find(from.old_path(path)) : nullptr;
    if (was && was->absent) (void)chmod(full.c_str(), from.disk->absent_mode(from.old_path(path)));
    if (!from.disk || lstat(from.disk->absolute(from.old_path(path)).c_str(), &info) != 0) continue;
    (void)chmod(full.c_str(), info.st_mode & 07777);
    timespec times[2] = {info.st_atim, info.st_mtim};
    if (from.is_as_it_was && from.is_as_it_was(path)) (void)utimensat(AT_FDCWD, full.c_str(), times, 0);
  }
  return {};
}

Status move_in_copy(const Plan& plan, const TreeReader& planned, const std::string& folder) {
  std::error_code error;
  auto full = [&](const RelPath& path) { return fs::path(folder) / path.str(); };
  auto failure = [&](const RelPath& path) {
    return Error{Failure::io, full(path).string(), "cannot be moved in the copy: " + error.message(), ""};
  };
  // By way of a folder of its own, for files may change places with each other.
  fs::path aside = fs::path(folder) / ".moving";
  fs::create_directory(aside, error);
  std::size_t number = 0;
  for (const Move& move : plan.moves.files()) {
    fs::rename(full(move.from), aside / std::to_string(number++), error);
    if (error) return failure(move.from);
  }
  number = 0;
  for (const Move& move : plan.moves.files()) {
    fs::create_directories(full(move.to).parent_path(), error);
    if (!error) fs::rename(aside / std::to_string(number++), full(move.to), error);
    if (error) return failure(move.to);
    for (RelPath left = move.from.parent(); !left.is_root() && fs::is_empty(full(left), error);
         left = left.parent())
      fs::remove(full(left), error);
  }
  fs::remove(aside, error);
  for (const RelPath& path : plan.changes.dropped) fs::remove(full(path), error);
  std::vector<RelPath> written;
  for (const auto& [path, edits] : plan.edits) written.push_back(plan.moves.map_file(path));
  for (const auto& [path, bytes] : plan.changes.made) written.push_back(path);
  for (const RelPath& path : written) {
    auto bytes = planned.read(path);
    if (!bytes) return bytes.error();
    fs::create_directories(full(path).parent_path(), error);
    std::ofstream out(full(path), std::ios::binary | std::ios::trunc);
    out.write((*bytes)->data(), static_cast<std::streamsize>((*bytes)->size()));
    if (!out) return failure(path);
  }
  return {};
}

}  // namespace yc
