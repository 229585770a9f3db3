// Reading a source tree. Nothing behind this interface can write: writing is carry/'s alone.
#pragma once

#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <string_view>
#include <unordered_set>
#include <vector>

#include "base/path.h"
#include "base/result.h"
#include "tree/any_case.h"
#include "tree/file_list.h"

namespace yc {

class NameSearch;

struct Entry {
  EntryKind kind = EntryKind::file;
  bool ignored = false;  // by an ignore rule, or it is a build output or an installed package
  bool guarded = false;  // protected by configuration, or part of version control: never edited or moved
  bool absent = false;   // of version control and not on the disk, as in a sparse checkout: only read
  std::uint64_t size = 0;
  std::uint64_t names = 1;  // hard links
  std::int64_t mtime_ns = 0;
};

using Bytes = std::shared_ptr<const std::string>;

class TreeReader {
 public:
  virtual ~TreeReader() = default;
  // The entry at a path, or null. The root is a folder that always exists.
  virtual const Entry* find(const RelPath& path) const = 0;
  // Names directly in a folder, sorted.
  virtual std::vector<std::string> children(const RelPath& folder) const = 0;
  // Every path that is not a folder, but for what is ignored.
  virtual const FileList& listing() const = 0;
  // What of the listing lies at any depth below a folder and has a name that matches; sorted.
  virtual std::vector<RelPath> files_below(const RelPath& folder, const std::string& name_pattern) const;
  // Whether a folder that holds something of the listing has this name, wherever it is.
  virtual bool has_folder_called(const std::string& name) const;
  virtual Result<Bytes> read(const RelPath& path) const = 0;
  // The bytes of a file that need not be kept, as one is passed over that holds nothing of interest. They may
  // be put into `buffer`, and are good as long as that is; nothing if the file cannot be read.
  virtual std::optional<std::string_view> peek(const RelPath& path, std::string& buffer) const;

  // Folders that cannot be listed, and files that somebody asked for and that cannot be read, so that nobody
  // knows what they hold. Sorted.
  virtual std::vector<RelPath> unreadable() const { return {}; }
  // Whether a sparse checkout may leave out files of which not even the names are known.
  virtual bool may_lack_files() const { return false; }
  // Names in a folder that are `name` but for the case of letters.
  std::vector<std::string> any_case(const RelPath& folder, std::string_view name) const;
  // Whether any of the names stands in a file, however large that is; also if nobody can know.
  virtual bool may_hold(const RelPath& path, const NameSearch& names) const;

  const std::vector<RelPath>& files() const { return listing().all(); }
  bool is_file(const RelPath& path) const;
  bool is_folder(const RelPath& path) const;
  // A plain file that may be edited: no link, not ignored, not protected.
  bool is_editable(const RelPath& path) const;

 protected:
  // For trees to which names can still be added.
  void forget_names() {
    names_ = std::make_shared<AnyCaseNames>();
    folder_names_ = std::make_shared<FolderNames>();
  }

 private:
  struct FolderNames {
    std::once_flag once;
    std::unordered_set<std::string> all;
  };
  // Copies of a tree have the same.
  std::shared_ptr<AnyCaseNames> names_ = std::make_shared<AnyCaseNames>();
  std::shared_ptr<FolderNames> folder_names_ = std::make_shared<FolderNames>();
};

// The path itself if something is there, else the only one that differs from it in the case of letters, as
// systems find it that know no case.
std::optional<RelPath> find_any_case(const TreeReader& tree, const RelPath& path);

// Paths that match a pattern with `*`, `?` and `[…]` in its components, taken below `base`; files and folders
// alike. Names that begin with a dot match only a pattern component that does. Sorted.
std::vector<RelPath> match_paths(const TreeReader& tree, const RelPath& base, std::string_view pattern);
// The same for files at any depth below the pattern's folder, but for ignored ones, whose name matches the
// pattern's last component.
std::vector<RelPath> match_deep(const TreeReader& tree, const RelPath& base, std::string_view pattern);
bool matches_any_deep(const TreeReader& tree, const RelPath& base, std::string_view pattern);
bool has_wildcard(std::string_view text);
// Whether one name matches one pattern component.
bool name_matches(std::string_view pattern, std::string_view name);

}  // namespace yc
