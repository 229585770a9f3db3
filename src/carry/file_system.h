// Every effect on a disk goes through this interface, so that tests can refuse any one of them. Paths are
// absolute; links are never followed at their last component.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "base/result.h"
#include "tree/tree_reader.h"

namespace yc {

struct FileInfo {
  EntryKind kind = EntryKind::file;
  unsigned mode = 0;  // permission bits
  std::uint64_t device = 0;
  std::uint64_t inode = 0;
  std::uint64_t names = 1;  // hard links
  std::uint64_t size = 0;
};

class FileSystem {
 public:
  virtual ~FileSystem() = default;
  virtual Result<std::string> read(const std::string& path) = 0;  // of a link, its text
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
  virtual Status sync_file(const std::string& path) = 0;
  virtual Status sync_folder(const std::string& path) = 0;
};

class DiskFileSystem : public FileSystem {
 public:
  Result<std::string> read(const std::string& path) override;
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
  Status sync_file(const std::string& path) override;
  Status sync_folder(const std::string& path) override;
};

}  // namespace yc
