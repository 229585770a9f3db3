#include "tree/disk_tree.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <filesystem>

#include "base/all_cores.h"
#include "base/name_search.h"
#include "tree/git_library.h"
#include "tree/ignore_rules.h"

namespace yc {

namespace {

// Folders that a version-control or patch tool keeps its own copies in.
bool is_version_control(std::string_view name) {
  return name == ".git" || name == ".hg" || name == ".svn" || name == ".pc";
}

bool is_build_output(const std::vector<Listed>& content) {
  return std::any_of(content.begin(), content.end(),
                     [](const Listed& item) { return item.name == "CMakeCache.txt"; });
}

}  // namespace

namespace {

std::int64_t time_of_file(const std::string& file) {
  struct stat info {};
  if (lstat(file.c_str(), &info) != 0) return 0;
  return info.st_mtim.tv_sec * 1'000'000'000LL + info.st_mtim.tv_nsec;
}

// Of the last change of a folder; 0 if it is none, or not there.
std::int64_t time_of(const std::string& folder) {
  struct stat info {};
  if (lstat(folder.c_str(), &info) != 0 || !S_ISDIR(info.st_mode)) return 0;
  return info.st_mtim.tv_sec * 1'000'000'000LL + info.st_mtim.tv_nsec;
}

}  // namespace

bool DiskTree::has_other_names() const {
  if (absent_ && time_of_file(absent_->index_file()) != index_time_) return true;
  return std::any_of(nodes_.begin(), nodes_.end(), [&](const auto& item) {
    const Node& node = item.second;
    bool is_looked_into =
        node.entry.kind == EntryKind::folder && node.loaded && !node.entry.ignored && !node.entry.guarded;
    return is_looked_into && time_of(absolute(item.first)) != node.entry.mtime_ns;
  });
}

namespace {

// Of what is listed the size counts too; of a folder, whose time tells of names, only that.
bool is_as_listed(const std::string& path, const Entry& entry) {
  if (entry.absent) return true;  // the index tells
  struct stat info {};
  if (lstat(path.c_str(), &info) != 0) return false;
  std::int64_t time = info.st_mtim.tv_sec * 1'000'000'000LL + info.st_mtim.tv_nsec;
  bool has_size = S_ISDIR(info.st_mode) || static_cast<std::uint64_t>(info.st_size) == entry.size;
  return time == entry.mtime_ns && has_size;
}

}  // namespace

std::set<RelPath> DiskTree::changed_files() const {
  const std::vector<RelPath>& all = files();
  std::vector<char> is_changed(all.size());
  on_all_cores(all.size(),
               [&](std::size_t i) { is_changed[i] = !is_as_listed(absolute(all[i]), *find(all[i])); });
  std::set<RelPath> out;
  for (std::size_t i = 0; i < all.size(); ++i) {
    if (is_changed[i]) out.insert(all[i]);
  }
  // What was looked up in ignored folders: what a build made, and what is installed.
  std::lock_guard lock(late_mutex_);
  for (const auto& [path, entry] : late_) {
    if (!is_as_listed(absolute(path), entry)) out.insert(path);
  }
  for (const auto& [path, node] : nodes_) {
    bool is_late = node.entry.kind == EntryKind::folder && node.entry.ignored && !node.entry.guarded;
    if (is_late && !is_as_listed(absolute(path), node.entry)) out.insert(path);
  }
  return out;
}

std::set<RelPath> DiskTree::changed_links() const {
  std::set<RelPath> out;
  for (const RelPath& path : linked_) {
    if (!is_as_listed(absolute(path), *find(path))) out.insert(path);
  }
  std::lock_guard lock(late_mutex_);
  for (const auto& [path, entry] : late_) {
    if (entry.names > 1 && !is_as_listed(absolute(path), entry)) out.insert(path);
  }
  return out;
}

std::vector<std::string> DiskTree::folders() const {
  std::vector<std::string> out;
  for (const auto& [path, node] : nodes_) {
    bool is_looked_into = node.entry.kind == EntryKind::folder && (node.loaded || node.entry.ignored);
    if (is_looked_into && !node.entry.absent) out.push_back(absolute(path));
  }
  if (absent_) out.push_back(std::filesystem::path(absent_->index_file()).parent_path().string());
  std::lock_guard lock(late_mutex_);
  for (const auto& [path, names] : late_names_) {
    if (!nodes_.contains(path)) out.push_back(absolute(path));
  }
  return out;
}

std::size_t DiskTree::late_folders() const {
  std::lock_guard lock(late_mutex_);
  return late_names_.size();
}

Result<std::unique_ptr<DiskTree>> DiskTree::scan(std::string root, const ScanOptions& options) {
  auto tree = std::unique_ptr<DiskTree>(new DiskTree());
  tree->root_ = std::move(root);
  auto held = Beneath::open(tree->root_);
  if (!held) return held.error();
  tree->held_ = std::move(*held);
  Entry& top = tree->nodes_[RelPath()].entry;
  top.kind = EntryKind::folder;
  top.mtime_ns = time_of(tree->root_);
  IgnoreRules rules(tree->root_);
  tree->repository_problem_ = rules.problem();
  // Level by level: the disk can be asked on all cores, the ignore rules cannot.
  for (std::vector<RelPath> level = {RelPath()}, next; !level.empty();
       level = std::move(next), next.clear()) {
    std::vector<std::optional<Result<std::vector<Listed>>>> listed(level.size());
    on_all_cores(level.size(), [&](std::size_t i) { listed[i] = list_folder(tree->held_, level[i].str()); });
    if (level[0].is_root() && !*listed[0]) return listed[0]->error();
    for (std::size_t i = 0; i < level.size(); ++i) {
      for (RelPath& folder : tree->take_in(level[i], std::move(*listed[i]), rules, options))
        next.push_back(std::move(folder));
    }
  }
  tree->may_lack_files_ = rules.may_lack_files();
  tree->take_in_absent(rules, options);
  tree->files_.settle();
  return tree;
}

// What is not on the disk belongs to the tree all the same.
void DiskTree::take_in_absent(const IgnoreRules& rules, const ScanOptions& options) {
  std::vector<AbsentFile> files = rules.absent();
  if (files.empty()) return;
  absent_ = std::make_unique<AbsentContents>(root_);
  index_time_ = time_of_file(absent_->index_file());
  for (const AbsentFile& file : files) {
    std::vector<std::string_view> parts = file.path.components();
    bool is_left_alone = std::any_of(parts.begin(), parts.end(), [](std::string_view part) {
      return part == "node_modules" || part == ".yellow-compass" || is_version_control(part);
    });
    Node* folder = is_left_alone ? nullptr : folder_for_absent(file.path.parent());
    if (!folder) continue;
    Node node;
    node.entry.kind = file.kind;
    node.entry.absent = true;
    node.entry.guarded =
        folder->entry.guarded || std::any_of(options.guarded.begin(), options.guarded.end(),
                                             [&](const RelPath& one) { return file.path.is_within(one); });
    node.entry.mtime_ns = file.mark;
    if (add_name(*folder, file.path, std::move(node))) files_.add(file.path, file.kind);
  }
}

// False if something is there already.
bool DiskTree::add_name(Node& folder, const RelPath& path, Node node) {
  if (!nodes_.emplace(path, std::move(node)).second) return false;
  std::string name(path.name());
  folder.names.insert(std::lower_bound(folder.names.begin(), folder.names.end(), name), name);
  return true;
}

// The folder that an absent file is in, which may be as absent; null if it was not looked into, or is none.
DiskTree::Node* DiskTree::folder_for_absent(const RelPath& path) {
  if (auto at = nodes_.find(path); at != nodes_.end()) {
    const Entry& entry = at->second.entry;
    bool is_known = entry.kind == EntryKind::folder && at->second.loaded && !entry.ignored;
    return is_known ? &at->second : nullptr;
  }
  Node* up = folder_for_absent(path.parent());  // the root is there
  if (!up) return nullptr;
  Node node;
  node.entry.kind = EntryKind::folder;
  node.entry.absent = true;
  node.entry.guarded = up->entry.guarded;
  add_name(*up, path, std::move(node));
  return &nodes_[path];
}

// Takes in what was listed of one folder; gives the folders in it that are to be looked into.
std::vector<RelPath> DiskTree::take_in(const RelPath& folder, Result<std::vector<Listed>> listed,
                                       const IgnoreRules& rules, const ScanOptions& options) {
  Node& here = nodes_[folder];
  if (!listed) {
    here.entry.guarded = true;  // what cannot be read is left alone
    note_unreadable(folder);
    return {};
  }
  if (!folder.is_root() && is_build_output(*listed)) {
    here.entry.ignored = true;
    here.loaded = false;
    files_.add_ignored(folder);
    return {};
  }
  // A list of rules that is no file would have the library wait for whoever writes into it.
  bool has_odd_rules = std::any_of(listed->begin(), listed->end(), [](const Listed& item) {
    return item.is_special && (item.name == ".gitignore" || item.name == ".gitattributes");
  });
  if (has_odd_rules) {
    here.entry.guarded = true;
    note_unreadable(folder);
  }
  std::vector<RelPath> subfolders;
  here.names.reserve(listed->size());
  for (Listed& item : *listed) {
    if (item.is_special) continue;
    RelPath path = folder / item.name;
    bool is_folder = item.entry.kind == EntryKind::folder;
    Node node;
    node.entry = item.entry;
    node.entry.guarded =
        here.entry.guarded || is_version_control(item.name) || item.name == ".yellow-compass" ||
        std::find(options.guarded.begin(), options.guarded.end(), path) != options.guarded.end();
    bool secret = is_version_control(item.name) || item.name == ".yellow-compass";
    node.entry.ignored =
        !secret && (item.name == "node_modules" || (!has_odd_rules && rules.ignores(path, is_folder)) ||
                    (!is_folder && rules.is_left_by_compiler(path)));
    node.loaded = !is_folder || (!node.entry.ignored && !secret && !has_odd_rules);
    if (is_folder && node.loaded) subfolders.push_back(path);
    if (!is_folder && !node.entry.ignored) files_.add(path, node.entry.kind);
    if (node.entry.ignored) files_.add_ignored(path);
    if (!is_folder && item.entry.names > 1) linked_.push_back(path);
    here.names.push_back(std::move(item.name));
    nodes_.emplace(std::move(path), std::move(node));
  }
  return subfolders;
}

// The names in a folder that the scan did not look into. Called with the mutex held.
const std::vector<std::string>& DiskTree::list_late(const RelPath& folder) const {
  auto [at, fresh] = late_names_.try_emplace(folder);
  if (!fresh) return at->second;
  auto listed = list_folder(held_, folder.str());
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

namespace {

constexpr std::uint64_t kHeldLimit = 4'000'000;  // bytes on each shelf

}  // namespace

Bytes DiskTree::known_bytes(const RelPath& path) const {
  Shelf& shelf = shelf_of(path);
  std::lock_guard lock(shelf.mutex);
  auto at = shelf.contents.find(path);
  return at == shelf.contents.end() ? nullptr : at->second;
}

void DiskTree::take_over(const DiskTree& earlier, const std::set<RelPath>& changed) {
  for (std::size_t i = 0; i < shelves_.size(); ++i) {
    std::scoped_lock lock(earlier.shelves_[i].mutex, shelves_[i].mutex);
    for (const auto& [path, bytes] : earlier.shelves_[i].contents) {
      const Entry *then = earlier.find(path), *now = find(path);
      bool is_same = then && now && then->kind == now->kind && then->size == now->size &&
                     then->mtime_ns == now->mtime_ns && !changed.contains(path);
      if (is_same && shelves_[i].contents.emplace(path, bytes).second) shelves_[i].held += bytes->size();
    }
  }
}

Result<Bytes> DiskTree::read(const RelPath& path) const {
  if (Bytes known = known_bytes(path)) return known;
  Result<Bytes> bytes = read_afresh(path);
  if (bytes) {
    Shelf& shelf = shelf_of(path);
    std::lock_guard lock(shelf.mutex);
    if (shelf.held + (*bytes)->size() <= kHeldLimit) {
      auto [at, fresh] = shelf.contents.emplace(path, *bytes);
      if (fresh) shelf.held += (*bytes)->size();
      return at->second;
    }
  }
  return bytes;
}

void DiskTree::note_unreadable(const RelPath& path) const {
  std::lock_guard lock(unreadable_mutex_);
  unreadable_.insert(path);
}

std::vector<RelPath> DiskTree::unreadable() const {
  std::lock_guard lock(unreadable_mutex_);
  return {unreadable_.begin(), unreadable_.end()};
}

std::optional<std::string_view> DiskTree::peek(const RelPath& path, std::string& buffer) const {
  if (Bytes known = known_bytes(path)) return std::string_view(*known);
  if (is_absent(path)) {
    auto bytes = read_afresh(path);
    if (!bytes || find(path)->kind == EntryKind::link) return std::nullopt;
    buffer = **bytes;
    return buffer;
  }
  Handle handle = held_.open_at(path.str(), O_RDONLY);
  struct stat info {};
  if (!handle || fstat(handle.get(), &info) != 0 || !S_ISREG(info.st_mode)) {
    const Entry* entry = find(path);
    if (!handle && entry && entry->kind == EntryKind::file) note_unreadable(path);
    return std::nullopt;
  }
  constexpr std::size_t kLeast = 65536;
  if (buffer.size() < kLeast) buffer.resize(kLeast);
  ssize_t got = ::read(handle.get(), buffer.data(), buffer.size());
  // What does not fit is left to read().
  if (got < 0 || static_cast<std::size_t>(got) == buffer.size()) {
    auto bytes = read(path);
    if (!bytes) return std::nullopt;
    buffer = **bytes;
    return buffer;
  }
  return std::string_view(buffer).substr(0, static_cast<std::size_t>(got));
}

namespace {

// More than that is no text that anybody wrote, and is not held in memory.
constexpr std::uint64_t kLargestText = 64'000'000;

}  // namespace

bool DiskTree::is_absent(const RelPath& path) const {
  if (!absent_) return false;
  auto at = nodes_.find(path);
  return at != nodes_.end() && at->second.entry.absent && at->second.entry.kind != EntryKind::folder;
}

unsigned DiskTree::absent_mode(const RelPath& path) const {
  return is_absent(path) && absent_->is_executable(path) ? 0755 : 0644;
}

Result<Bytes> DiskTree::read_afresh(const RelPath& path) const {
  auto bytes =
      is_absent(path) ? absent_->read(path, kLargestText) : read_beneath(held_, path.str(), kLargestText);
  if (bytes) return Bytes(std::make_shared<const std::string>(std::move(*bytes)));
  const Entry* entry = find(path);
  if (entry && entry->kind == EntryKind::file) note_unreadable(path);
  return bytes.error();
}

bool DiskTree::may_hold(const RelPath& path, const NameSearch& names) const {
  if (Bytes known = known_bytes(path)) return names.finds_any(*known);
  if (is_absent(path)) {
    auto bytes = read_afresh(path);
    return !bytes || names.finds_any(**bytes);
  }
  Handle handle = held_.open_at(path.str(), O_RDONLY);
  struct stat info {};
  if (!handle || fstat(handle.get(), &info) != 0 || !S_ISREG(info.st_mode)) return true;
  // A part at a time; the end of each is looked at again with the next, where a name may be cut in two.
  constexpr std::size_t kPart = 1 << 20, kOverlap = 4096;
  std::string buffer(kPart, '\0');
  std::size_t kept = 0;
  while (true) {
    ssize_t got = ::read(handle.get(), buffer.data() + kept, buffer.size() - kept);
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return true;
    if (got == 0) return false;
    std::size_t size = kept + static_cast<std::size_t>(got);
    if (names.finds_any(std::string_view(buffer).substr(0, size))) return true;
    kept = std::min(size, kOverlap);
    buffer.replace(0, kept, buffer, size - kept, kept);
  }
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
  auto found = Repository::look_for(here.string());
  return found.top.empty() ? here.string() : found.top;
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

std::vector<std::string> writable_folders(const std::string& root) {
  std::vector<std::string> out = {root};
  if (auto repository = Repository::around(root)) {
    out.push_back(repository->own());
    out.push_back(repository->common());
  }
  return out;
}

}  // namespace yc
