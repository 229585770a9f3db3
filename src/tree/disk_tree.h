// A snapshot of a tree on disk: paths, kinds, sizes and times at once, contents when asked.
#pragma once

#include <memory>
#include <mutex>
#include <unordered_map>

#include "tree/tree_reader.h"

namespace yc {

struct ScanOptions {
  std::vector<RelPath> guarded;  // folders and files that configuration protects
};

class DiskTree : public TreeReader {
 public:
  // Scans the folder `root` (absolute). Ignored folders are looked into only when something asks for their
  // content.
  static Result<std::unique_ptr<DiskTree>> scan(std::string root, const ScanOptions& options);

  const std::string& root() const { return root_; }
  std::string absolute(const RelPath& path) const {
    return path.is_root() ? root_ : root_ + "/" + path.str();
  }

  const Entry* find(const RelPath& path) const override;
  std::vector<std::string> children(const RelPath& folder) const override;
  std::vector<RelPath> files() const override;
  Result<Bytes> read(const RelPath& path) const override;

 private:
  struct Node {
    Entry entry;
    std::vector<std::string> names;  // sorted, for folders
    bool loaded = true;              // false for an ignored folder nobody asked about yet
  };
  DiskTree() = default;
  Status load(const RelPath& folder, bool inside_ignored, const class IgnoreRules& rules,
              const ScanOptions& options);
  Result<Bytes> read_afresh(const RelPath& path) const;
  void load_ignored(const RelPath& folder) const;

  std::string root_;
  std::vector<RelPath> files_;  // sorted; complete once the scan is
  mutable std::unordered_map<RelPath, Node> nodes_;
  mutable std::unordered_map<RelPath, Bytes> contents_;  // what was read, as long as it is little
  mutable std::uint64_t held_ = 0;                       // bytes in contents_
  mutable std::recursive_mutex lazy_;
};

// The root of the tree that `start` is in: the nearest folder upwards with a yellow-compass.toml, else the
// top of the version-controlled working tree, else `start` itself. All absolute.
std::string find_root(const std::string& start);
// Where this tree's journals are kept (absolute): in the repository's own folder, else in the root.
std::string state_folder(const std::string& root);

}  // namespace yc
