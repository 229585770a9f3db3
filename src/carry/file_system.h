// Every effect on a disk goes through this interface, so that tests can refuse any one of them. Paths are
// absolute; links are never followed, neither at a path's end nor on the way to it.
#pragma once

#include <cstdint>
#include <limits>
#include <string>
#include <vector>

#include "base/handle.h"
#include "base/result.h"
#include "tree/beneath.h"
#include "tree/tree_reader.h"

namespace yc {

struct FileInfo {
  EntryKind kind = EntryKind::file;
  bool is_special = false;  // a pipe, a socket or a device, which `kind` calls a file
  unsigned mode = 0;        // permission bits
  unsigned owner = 0;       // user id
  std::uint64_t device = 0;
  std::uint64_t inode = 0;
  std::uint64_t names = 1;  // hard links
  std::uint64_t size = 0;
  std::int64_t mtime_ns = 0;
};

class FileSystem {
 public:
  virtual ~FileSystem() = default;
  virtual Result<std::string> read(const std::string& path) = 0;  // of a link, its text
  // The digest (see carry/digest.h) of what read() gives, without holding it in memory.
  virtual Result<std::string> digest(const std::string& path) = 0;
  virtual bool exists(const std::string& path) = 0;
  virtual Result<FileInfo> info(const std::string& path) = 0;
  virtual Result<std::vector<std::string>> list(const std::string& folder) = 0;  // names, sorted
  // Writes a new file with these permission bits and syncs it. Fails if it exists.
  virtual Status write_new(const std::string& path, const std::string& bytes, unsigned mode) = 0;
  // The same with the kind, permissions, owner (where permitted) and extended attributes of `model`; the
  // bytes of a link are its text.
  virtual Status write_like(const std::string& path, const std::string& bytes, const std::string& model) = 0;
  // One more name for a file; where there can be none (no hard links, another file system), a copy with its
  // times.
  virtual Status link(const std::string& from, const std::string& to) = 0;
  virtual Status make_folder(const std::string& path, unsigned mode) = 0;
  virtual Status remove_folder(const std::string& path) = 0;  // must be empty
  virtual Status remove_file(const std::string& path) = 0;
  virtual Status rename(const std::string& from, const std::string& to) = 0;      // replaces a file at `to`
  virtual Status rename_new(const std::string& from, const std::string& to) = 0;  // fails if `to` exists
  // Gives each of two files the other's name, in one step. False where the file system has no such step.
  virtual Result<bool> exchange(const std::string& one, const std::string& other) = 0;
  virtual Status touch(const std::string& path) = 0;  // sets the time of its last change to now
  virtual Status sync_file(const std::string& path) = 0;
  virtual Status sync_folder(const std::string& path) = 0;
  // The plain file at `path`, to be locked; made if it is not there and `make` says so. What it holds stays.
  virtual Result<Handle> open_lock(const std::string& path, bool make) = 0;
};

class DiskFileSystem : public FileSystem {
 public:
  // Only what lies in one of these folders (absolute, canonical) can be named. They are held open, so that it
  // is they themselves whatever bears their names later; one that is not there holds nothing.
  explicit DiskFileSystem(const std::vector<std::string>& folders);

  Result<std::string> read(const std::string& path) override;
  Result<std::string> digest(const std::string& path) override;
  bool exists(const std::string& path) override;
  Result<FileInfo> info(const std::string& path) override;
  Result<std::vector<std::string>> list(const std::string& folder) override;
  Status write_new(const std::string& path, const std::string& bytes, unsigned mode) override;
  Status write_like(const std::string& path, const std::string& bytes, const std::string& model) override;
  Status link(const std::string& from, const std::string& to) override;
  Status make_folder(const std::string& path, unsigned mode) override;
  Status remove_folder(const std::string& path) override;
  Status remove_file(const std::string& path) override;
  Status rename(const std::string& from, const std::string& to) override;
  Status rename_new(const std::string& from, const std::string& to) override;
  Result<bool> exchange(const std::string& one, const std::string& other) override;
  Status touch(const std::string& path) override;
  Status sync_file(const std::string& path) override;
  Status sync_folder(const std::string& path) override;
  Result<Handle> open_lock(const std::string& path, bool make) override;

 private:
  // An open folder and a name in it; without a folder, errno says why.
  struct Spot {
    Handle folder;
    std::string name;
    explicit operator bool() const { return static_cast<bool>(folder); }
    const char* at() const { return name.c_str(); }
  };
  Spot spot(const std::string& path) const;
  // The folder that `path` is in, and the rest of it; null if it is in none.
  const Beneath* around(const std::string& path, std::string& below) const;

  std::vector<Beneath> folders_;
};

}  // namespace yc
