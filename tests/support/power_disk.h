// A file system in memory that loses its power: what was written and not synced is gone, names in folders as
// well as bytes. As a journaling file system does it, changes of names survive in the order in which they
// were made, up to some point at or behind the last one that a sync of its folder made sure of.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "carry/file_system.h"

namespace yc::test {

struct PowerCut {};  // thrown at the call after which nothing happens any more

class PowerDisk : public FileSystem {
 public:
  // Holds what is below the folder `root` on the real disk, all of it safe.
  explicit PowerDisk(const std::string& root);
  // What is found after the power came back, with `kept` of every 4 changes of names that were not made sure
  // of.
  PowerDisk after_cut(int kept) const;
  void cut_at(int change) { cut_at_ = change; }
  int changes() const { return changes_; }
  // Files and folders below the root with bytes and permissions, as ScratchFolder::contents() gives them.
  std::map<std::string, std::string> contents() const;

  Result<std::string> read(const std::string& path) override;
  Result<std::string> digest(const std::string& path) override;
  bool exists(const std::string& path) override { return names_.contains(path); }
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
  struct Node {
    EntryKind kind = EntryKind::file;
    std::string bytes, safe_bytes;
    unsigned mode = 0644;
    std::uint64_t inode = 0;
    std::int64_t mtime_ns = 0;
  };
  using Names = std::map<std::string, std::shared_ptr<Node>>;
  struct Change {
    std::function<void(Names&)> apply;
    std::vector<std::string> folders;
  };
  PowerDisk() = default;
  void step();
  void change(std::function<void(Names&)> apply, const std::vector<std::string>& paths);
  Status missing(const std::string& path) const;
  std::shared_ptr<Node> node(EntryKind kind, const std::string& bytes, unsigned mode);

  std::string root_;
  Names names_, safe_;  // as programs see them, and as they would be found again
  std::vector<Change> unsafe_;
  std::uint64_t next_inode_ = 1;
  int changes_ = 0, cut_at_ = 0;
};

}  // namespace yc::test
