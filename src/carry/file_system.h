// Every effect on a disk goes through this interface, so that tests can refuse any one of them. Paths are
// absolute.
#pragma once

#include <string>

#include "base/result.h"

namespace yc {

class FileSystem {
 public:
  virtual ~FileSystem() = default;
  virtual Result<std::string> read(const std::string& path) = 0;
  virtual bool exists(const std::string& path) = 0;  // links are not followed
  virtual Result<unsigned> mode(const std::string& path) = 0;
  virtual Result<unsigned long long> device(const std::string& path) = 0;
  // Writes a new file with these permission bits and syncs it. Fails if it exists.
  virtual Status write_new(const std::string& path, const std::string& bytes, unsigned mode) = 0;
  virtual Status make_folder(const std::string& path) = 0;
  virtual Status remove_folder(const std::string& path) = 0;  // must be empty
  virtual Status remove_file(const std::string& path) = 0;
  virtual Status rename(const std::string& from, const std::string& to) = 0;  // replaces a file at `to`
  virtual Status sync_folder(const std::string& path) = 0;
};

class DiskFileSystem : public FileSystem {
 public:
  Result<std::string> read(const std::string& path) override;
  bool exists(const std::string& path) override;
  Result<unsigned> mode(const std::string& path) override;
  Result<unsigned long long> device(const std::string& path) override;
  Status write_new(const std::string& path, const std::string& bytes, unsigned mode) override;
  Status make_folder(const std::string& path) override;
  Status remove_folder(const std::string& path) override;
  Status remove_file(const std::string& path) override;
  Status rename(const std::string& from, const std::string& to) override;
  Status sync_folder(const std::string& path) override;
};

}  // namespace yc
