// A file system on the real disk that refuses its N-th change, and counts them.
#pragma once

#include "carry/file_system.h"

namespace yc::test {

class FaultyDisk : public DiskFileSystem {
 public:
  FaultyDisk(const std::vector<std::string>& folders, int fail_at)
      : DiskFileSystem(folders), fail_at_(fail_at) {}
  int changes() const { return changes_; }
  bool has_failed() const { return fail_at_ > 0 && changes_ >= fail_at_; }

  Status write_new(const std::string& path, const std::string& bytes, unsigned mode) override {
    return refuse() ? fault(path) : DiskFileSystem::write_new(path, bytes, mode);
  }
  Status write_like(const std::string& path, const std::string& bytes, const std::string& model) override {
    return refuse() ? fault(path) : DiskFileSystem::write_like(path, bytes, model);
  }
  Status link(const std::string& from, const std::string& to) override {
    return refuse() ? fault(to) : DiskFileSystem::link(from, to);
  }
  Status make_folder(const std::string& path, unsigned mode) override {
    return refuse() ? fault(path) : DiskFileSystem::make_folder(path, mode);
  }
  Status remove_folder(const std::string& path) override {
    return refuse() ? fault(path) : DiskFileSystem::remove_folder(path);
  }
  Status remove_file(const std::string& path) override {
    return refuse() ? fault(path) : DiskFileSystem::remove_file(path);
  }
  Status rename(const std::string& from, const std::string& to) override {
    return refuse() ? fault(to) : DiskFileSystem::rename(from, to);
  }
  Status rename_new(const std::string& from, const std::string& to) override {
    return refuse() ? fault(to) : DiskFileSystem::rename_new(from, to);
  }
  Result<bool> exchange(const std::string& one, const std::string& other) override {
    if (refuse()) return fault(other).error();
    return DiskFileSystem::exchange(one, other);
  }
  Status touch(const std::string& path) override {
    return refuse() ? fault(path) : DiskFileSystem::touch(path);
  }
  Status sync_file(const std::string& path) override {
    return refuse() ? fault(path) : DiskFileSystem::sync_file(path);
  }
  Status sync_folder(const std::string& path) override {
    return refuse() ? fault(path) : DiskFileSystem::sync_folder(path);
  }

 private:
  bool refuse() { return ++changes_ == fail_at_; }
  static Status fault(const std::string& path) {
    return Error{Failure::io, path, "No space left on device", ""};
  }

  int fail_at_;
  int changes_ = 0;
};

}  // namespace yc::test
