// A snapshot of a tree on disk: paths, kinds, sizes and times at once, contents when asked.
#pragma once

#include <array>
#include <memory>
#include <mutex>
#include <set>
#include <unordered_map>

#include "tree/absent_files.h"
#include "tree/folder_listing.h"
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
  const FileList& listing() const override { return files_; }
  Result<Bytes> read(const RelPath& path) const override;
  std::optional<std::string_view> peek(const RelPath& path, std::string& buffer) const override;
  std::vector<RelPath> unreadable() const override;
  bool may_lack_files() const override { return may_lack_files_; }
  // The permissions that an absent file is to have once it is checked out.
  unsigned absent_mode(const RelPath& path) const;
  bool may_hold(const RelPath& path, const NameSearch& names) const override;
  // Whether names came or went since: a folder that was looked into has another time.
  bool has_other_names() const;
  // Files that have another size or time since, or are gone; in ignored folders, what was looked up there,
  // and folders whose names were.
  std::set<RelPath> changed_files() const;
  // The same of those that can be written by another name, which is not seen in their folders.
  std::set<RelPath> changed_links() const;
  // Every folder that was looked into, or that would be (absolute): where nothing happens in any, no name and
  // no file changes but for those of changed_links().
  std::vector<std::string> folders() const;
  // How often a folder was looked into since the scan: grows where folders() does.
  std::size_t late_folders() const;
  // What was read of a file; null if it was not, or is not held.
  Bytes known_bytes(const RelPath& path) const;
  // Takes over what an earlier snapshot of the same root has read of files that have not changed since: they
  // have the same size and time, and are none of `changed`.
  void take_over(const DiskTree& earlier, const std::set<RelPath>& changed);
  // Why the repository around the tree cannot be used; empty if it can, or there is none.
  const std::string& repository_problem() const { return repository_problem_; }

 private:
  struct Node {
    Entry entry;
    std::vector<std::string> names;  // sorted, for folders
    bool loaded = true;              // false for an ignored folder
  };
  // What was read of some of the files; many of these, so that threads seldom wait for each other.
  struct Shelf {
    std::mutex mutex;
    std::unordered_map<RelPath, Bytes> contents;
    std::uint64_t held = 0;  // bytes in contents
  };
  DiskTree() = default;
  std::vector<RelPath> take_in(const RelPath& folder, Result<std::vector<Listed>> listed,
                               const class IgnoreRules& rules, const ScanOptions& options);
  void take_in_absent(const class IgnoreRules& rules, const ScanOptions& options);
  Node* folder_for_absent(const RelPath& path);
  bool add_name(Node& folder, const RelPath& path, Node node);
  bool is_absent(const RelPath& path) const;
  Result<Bytes> read_afresh(const RelPath& path) const;
  Shelf& shelf_of(const RelPath& path) const {
    return shelves_[std::hash<RelPath>{}(path) % shelves_.size()];
  }
  void note_unreadable(const RelPath& path) const;
  const Entry* find_late(const RelPath& path) const;
  const std::vector<std::string>& list_late(const RelPath& folder) const;

  std::string root_, repository_problem_;
  bool may_lack_files_ = false;
  std::unique_ptr<AbsentContents> absent_;   // null where no file is absent
  std::int64_t index_time_ = 0;              // of the index that lists them
  Beneath held_;                             // the root, so that no link leads out of it
  FileList files_;                           // sorted; complete once the scan is
  std::vector<RelPath> linked_;              // files with several names
  std::unordered_map<RelPath, Node> nodes_;  // never changed once the scan is complete
  mutable std::array<Shelf, 16> shelves_;
  mutable std::mutex unreadable_mutex_;
  mutable std::set<RelPath> unreadable_;  // guarded by unreadable_mutex_
  // What lies in ignored folders, looked up when somebody asks. Guarded by late_mutex_.
  mutable std::mutex late_mutex_;
  mutable std::unordered_map<RelPath, Entry> late_;
  mutable std::unordered_map<RelPath, std::vector<std::string>> late_names_;
};

// The root of the tree that `start` is in: the nearest folder upwards with a yellow-compass.toml, else the
// top of the version-controlled working tree, else `start` itself. All absolute.
std::string find_root(const std::string& start);
// Where this tree's journals are kept (absolute): in the repository's own folder if that can be used and is
// on the same file system, else in the root.
std::string state_folder(const std::string& root);
// The folders (absolute) outside of which nothing is ever written: the root, and the repository's own.
std::vector<std::string> writable_folders(const std::string& root);

}  // namespace yc
