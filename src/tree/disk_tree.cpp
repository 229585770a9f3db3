#include "tree/disk_tree.h"

#include <dirent.h>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <filesystem>

#include "tree/git_library.h"
#include "tree/ignore_rules.h"

namespace yc {

namespace {

struct Listed {
  std::string name;
  Entry entry;
};

Entry entry_of(const struct stat& info) {
  Entry entry;
  entry.kind = S_ISDIR(info.st_mode)   ? EntryKind::folder
               : S_ISLNK(info.st_mode) ? EntryKind::link
                                       : EntryKind::file;
  entry.size = static_cast<std::uint64_t>(info.st_size);
  entry.names = info.st_nlink;
  entry.mtime_ns = info.st_mtim.tv_sec * 1'000'000'000LL + info.st_mtim.tv_nsec;
  return entry;
}

// Lists a folder, leaving out what is neither file, folder nor link.
Result<std::vector<Listed>> list_folder(const std::string& folder) {
  DIR* handle = opendir(folder.c_str());
  if (!handle) return Error{Failure::io, folder, std::strerror(errno), "check the folder's permissions"};
  std::vector<Listed> out;
  while (const dirent* item = readdir(handle)) {
    std::string name = item->d_name;
    if (name == "." || name == "..") continue;
    struct stat info {};
    if (fstatat(dirfd(handle), item->d_name, &info, AT_SYMLINK_NOFOLLOW) != 0) continue;
    if (!S_ISREG(info.st_mode) && !S_ISDIR(info.st_mode) && !S_ISLNK(info.st_mode)) continue;
    out.push_back({std::move(name), entry_of(info)});
  }
  closedir(handle);
  std::sort(out.begin(), out.end(), [](const Listed& a, const Listed& b) { return a.name < b.name; });
  return out;
}

// Folders that a version-control or patch tool keeps its own copies in.
bool is_version_control(std::string_view name) {
  return name == ".git" || name == ".hg" || name == ".svn" || name == ".pc";
}

bool is_build_output(const std::vector<Listed>& content) {
  return std::any_of(content.begin(), content.end(),
                     [](const Listed& item) { return item.name == "CMakeCache.txt"; });
}

}  // namespace

Result<std::unique_ptr<DiskTree>> DiskTree::scan(std::string root, const ScanOptions& options) {
  auto tree = std::unique_ptr<DiskTree>(new DiskTree());
  tree->root_ = std::move(root);
  tree->nodes_[RelPath()].entry.kind = EntryKind::folder;
  IgnoreRules rules(tree->root_);
  if (Status ok = tree->load({}, false, rules, options); !ok) return ok.error();
  for (const auto& [path, node] : tree->nodes_) {
    if (node.entry.kind != EntryKind::folder && !node.entry.ignored) tree->files_.push_back(path);
  }
  std::sort(tree->files_.begin(), tree->files_.end());
  return tree;
}

Status DiskTree::load(const RelPath& folder, bool inside_ignored, const IgnoreRules& rules,
                      const ScanOptions& options) {
  auto listed = list_folder(absolute(folder));
  if (!listed) {
    if (folder.is_root()) return listed.error();
    nodes_[folder].entry.guarded = true;  // what cannot be read is left alone
    return {};
  }
  if (!folder.is_root() && is_build_output(*listed)) {
    nodes_[folder].entry.ignored = true;
    inside_ignored = true;
  }
  if (inside_ignored) {
    nodes_[folder].loaded = false;
    return {};
  }
  std::vector<RelPath> subfolders;
  for (Listed& item : *listed) {
    RelPath path = folder / item.name;
    bool is_folder = item.entry.kind == EntryKind::folder;
    nodes_[folder].names.push_back(item.name);
    Node node;
    node.entry = item.entry;
    node.entry.guarded =
        nodes_[folder].entry.guarded || is_version_control(item.name) || item.name == ".yellow-compass" ||
        std::find(options.guarded.begin(), options.guarded.end(), path) != options.guarded.end();
    bool secret = is_version_control(item.name) || item.name == ".yellow-compass";
    node.entry.ignored = !secret && (item.name == "node_modules" || rules.ignores(path, is_folder));
    node.loaded = !is_folder || (!node.entry.ignored && !secret);
    if (is_folder && node.loaded) subfolders.push_back(path);
    nodes_[path] = std::move(node);
  }
  for (const RelPath& path : subfolders) {
    if (Status ok = load(path, false, rules, options); !ok) return ok;
  }
  return {};
}

// The names in a folder that the scan did not look into. Called with the mutex held.
const std::vector<std::string>& DiskTree::list_late(const RelPath& folder) const {
  auto [at, fresh] = late_names_.try_emplace(folder);
  if (!fresh) return at->second;
  auto listed = list_folder(absolute(folder));
  if (!listed) return at->second;
  for (Listed& item : *listed) {
    item.entry.ignored = true;
    late_.emplace(folder / item.name, item.entry);
    at->second.push_back(std::move(item.name));
  }
  return at->second;
}

const Entry* DiskTree::find_late(const RelPath& path) const {
  if (auto at = nodes_.find(path); at != nodes_.end()) return &at->second.entry;
  RelPath up = path.parent();
  const Entry* folder = find_late(up);
  if (!folder || folder->kind != EntryKind::folder || !folder->ignored) return nullptr;
  list_late(up);
  auto at = late_.find(path);
  return at == late_.end() ? nullptr : &at->second;
}

const Entry* DiskTree::find(const RelPath& path) const {
  auto at = nodes_.find(path);
  if (at != nodes_.end()) return &at->second.entry;
  // Perhaps it lies in an ignored folder that was not looked into.
  for (RelPath up = path.parent();; up = up.parent()) {
    at = nodes_.find(up);
    if (at == nodes_.end()) continue;  // the root is always there
    if (at->second.loaded || !at->second.entry.ignored) return nullptr;
    break;
  }
  std::lock_guard lock(late_mutex_);
  return find_late(path);
}

std::vector<std::string> DiskTree::children(const RelPath& folder) const {
  const Entry* entry = find(folder);
  if (!entry || entry->kind != EntryKind::folder) return {};
  auto at = nodes_.find(folder);
  if (at != nodes_.end() && (at->second.loaded || !entry->ignored)) return at->second.names;
  std::lock_guard lock(late_mutex_);
  return list_late(folder);
}

const std::vector<RelPath>& DiskTree::files() const {
  return files_;
}

namespace {

constexpr std::uint64_t kHeldLimit = 4'000'000;  // bytes on each shelf

}  // namespace

Result<Bytes> DiskTree::read(const RelPath& path) const {
  Shelf& shelf = shelves_[std::hash<RelPath>{}(path) % shelves_.size()];
  {
    std::lock_guard lock(shelf.mutex);
    if (auto at = shelf.contents.find(path); at != shelf.contents.end()) return at->second;
  }
  Result<Bytes> bytes = read_afresh(path);
  if (bytes) {
    std::lock_guard lock(shelf.mutex);
    if (shelf.held + (*bytes)->size() <= kHeldLimit) {
      auto [at, fresh] = shelf.contents.emplace(path, *bytes);
      if (fresh) shelf.held += (*bytes)->size();
      return at->second;
    }
  }
  return bytes;
}

std::optional<std::string_view> DiskTree::look_into(const RelPath& path, std::string& buffer) const {
  const Entry* entry = find(path);
  if (!entry || entry->kind != EntryKind::file) return std::nullopt;
  int handle = open(absolute(path).c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW);
  if (handle < 0) return std::nullopt;
  if (buffer.size() <= entry->size) buffer.resize(static_cast<std::size_t>(entry->size) + 1);
  ssize_t got = ::read(handle, buffer.data(), buffer.size());
  close(handle);
  // What was changed since the scan is left to read().
  if (got < 0 || static_cast<std::uint64_t>(got) != entry->size) return std::nullopt;
  return std::string_view(buffer).substr(0, static_cast<std::size_t>(got));
}

Result<Bytes> DiskTree::read_afresh(const RelPath& path) const {
  std::string name = absolute(path);
  const Entry* entry = find(path);
  auto fail = [&] {
    return Error{Failure::io, path.str(), std::strerror(errno), "check that it can be read"};
  };
  auto bytes = std::make_shared<std::string>();
  if (entry && entry->kind == EntryKind::link) {
    bytes->resize(entry->size + 1);
    ssize_t size = readlink(name.c_str(), bytes->data(), bytes->size());
    if (size < 0) return fail();
    bytes->resize(static_cast<std::size_t>(size));
    return Bytes(bytes);
  }
  int handle = open(name.c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW);
  if (handle < 0) return fail();
  // One more byte than expected: a short read then tells the end, a full one a file that grew.
  bytes->resize(entry ? static_cast<std::size_t>(entry->size) + 1 : 4096);
  std::size_t at = 0;
  while (true) {
    if (at == bytes->size()) bytes->resize(at * 2);
    ssize_t got = ::read(handle, bytes->data() + at, bytes->size() - at);
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) {
      Error error = fail();
      close(handle);
      return error;
    }
    at += static_cast<std::size_t>(got);
    if (got == 0 || (at < bytes->size() && entry && at == entry->size)) break;
  }
  close(handle);
  bytes->resize(at);
  return Bytes(bytes);
}

std::string find_root(const std::string& start) {
  namespace fs = std::filesystem;
  std::error_code error;
  fs::path here = fs::canonical(start, error);
  if (error) return start;
  for (fs::path up = here;; up = up.parent_path()) {
    if (fs::exists(up / "yellow-compass.toml", error)) return up.string();
    if (up == up.parent_path()) break;
  }
  auto repository = Repository::around(here.string());
  return repository ? repository->top() : here.string();
}

std::string state_folder(const std::string& root) {
  auto repository = Repository::around(root);
  // Files are renamed between the tree and its state, which only one file system can do.
  struct stat tree {};
  struct stat own {};
  bool is_near = repository && stat(root.c_str(), &tree) == 0 && stat(repository->own().c_str(), &own) == 0 &&
                 tree.st_dev == own.st_dev;
  if (!is_near) return root + "/.yellow-compass";
  std::string state = repository->own() + "/yellow-compass";
  // A part of a working tree that is moved about in as a tree of its own has journals of its own.
  if (repository->prefix().empty()) return state;
  std::string name = repository->prefix().substr(0, repository->prefix().size() - 1);
  for (std::size_t at = 0; (at = name.find_first_of("/%", at)) != std::string::npos; at += 3)
    name.replace(at, 1, name[at] == '/' ? "%2F" : "%25");
  return state + "-" + name;
}

}  // namespace yc
