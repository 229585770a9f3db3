#include "support/power_disk.h"

#include <fmt/format.h>
#include <sys/mman.h>
#include <unistd.h>

#include <filesystem>

#include "carry/digest.h"

namespace yc::test {

namespace {

namespace fs = std::filesystem;

std::string folder_of(const std::string& path) {
  return path.substr(0, path.rfind('/'));
}

}  // namespace

PowerDisk::PowerDisk(const std::string& root) : root_(root) {
  DiskFileSystem real({root});
  auto take = [&](const std::string& path) {
    auto about = real.info(path);
    auto one = std::make_shared<Node>();
    one->kind = about->kind;
    one->mode = about->mode;
    one->inode = about->inode;
    one->mtime_ns = about->mtime_ns;
    if (one->kind != EntryKind::folder) one->bytes = one->safe_bytes = *real.read(path);
    names_[path] = one;
    next_inode_ = std::max(next_inode_, one->inode + 1);
  };
  take(root);
  for (const auto& item : fs::recursive_directory_iterator(root)) take(item.path().string());
  safe_ = names_;
}

PowerDisk PowerDisk::after_cut(int kept) const {
  PowerDisk out;
  out.root_ = root_;
  Names found = safe_;
  std::size_t count = unsafe_.size() * static_cast<std::size_t>(kept) / 4;
  for (std::size_t i = 0; i < count; ++i) unsafe_[i].apply(found);
  for (const auto& [path, one] : found) {
    auto copy = std::make_shared<Node>(*one);
    copy->bytes = copy->safe_bytes;
    out.names_[path] = copy;
  }
  out.safe_ = out.names_;
  out.next_inode_ = next_inode_;
  return out;
}

std::map<std::string, std::string> PowerDisk::contents() const {
  std::map<std::string, std::string> out;
  for (const auto& [path, one] : names_) {
    if (path == root_ || path.find("/.yellow-compass") != std::string::npos) continue;
    out[path.substr(root_.size() + 1)] =
        fmt::format("{:o} ", one->mode) + (one->kind == EntryKind::folder ? "folder" : one->bytes);
  }
  return out;
}

void PowerDisk::step() {
  if (++changes_ == cut_at_) throw PowerCut{};
}

void PowerDisk::change(std::function<void(Names&)> apply, const std::vector<std::string>& paths) {
  step();
  apply(names_);
  Change made{std::move(apply), {}};
  for (const std::string& path : paths) made.folders.push_back(folder_of(path));
  unsafe_.push_back(std::move(made));
}

Status PowerDisk::missing(const std::string& path) const {
  return Error{Failure::io, path, "is not there", ""};
}

std::shared_ptr<PowerDisk::Node> PowerDisk::node(EntryKind kind, const std::string& bytes, unsigned mode) {
  auto out = std::make_shared<Node>();
  out->kind = kind;
  out->bytes = bytes;
  out->mode = mode;
  out->inode = next_inode_++;
  return out;
}

Result<std::string> PowerDisk::read(const std::string& path) {
  if (!exists(path)) return missing(path).error();
  return names_[path]->bytes;
}

Result<std::string> PowerDisk::digest(const std::string& path) {
  auto bytes = read(path);
  return bytes ? Result<std::string>(digest_of(*bytes)) : bytes;
}

Result<FileInfo> PowerDisk::info(const std::string& path) {
  if (!exists(path)) return missing(path).error();
  const Node& one = *names_[path];
  FileInfo out;
  out.kind = one.kind;
  out.mode = one.mode;
  out.owner = geteuid();
  out.inode = one.inode;
  out.size = one.bytes.size();
  out.mtime_ns = one.mtime_ns;
  return out;
}

Result<std::vector<std::string>> PowerDisk::list(const std::string& folder) {
  std::vector<std::string> out;
  for (const auto& [path, one] : names_) {
    if (path != folder && folder_of(path) == folder) out.push_back(path.substr(folder.size() + 1));
  }
  return out;
}

Status PowerDisk::write_new(const std::string& path, const std::string& bytes, unsigned mode) {
  if (exists(path) || !exists(folder_of(path))) return missing(path);
  auto one = node(EntryKind::file, bytes, mode);
  change([path, one](Names& names) { names[path] = one; }, {path});
  step();  // between the writing and its sync
  one->safe_bytes = bytes;
  return {};
}

Status PowerDisk::write_like(const std::string& path, const std::string& bytes, const std::string& model) {
  if (!exists(model)) return missing(model);
  return write_new(path, bytes, names_[model]->mode);
}

Status PowerDisk::link(const std::string& from, const std::string& to) {
  if (!exists(from) || exists(to)) return missing(from);
  auto one = names_[from];
  change([to, one](Names& names) { names[to] = one; }, {to});
  return {};
}

Status PowerDisk::make_folder(const std::string& path, unsigned mode) {
  if (exists(path) || !exists(folder_of(path))) return missing(path);
  auto one = node(EntryKind::folder, "", mode ? mode : 0755);
  change([path, one](Names& names) { names[path] = one; }, {path});
  return {};
}

Status PowerDisk::remove_folder(const std::string& path) {
  if (!exists(path) || !list(path)->empty()) return missing(path);
  return remove_file(path);
}

Status PowerDisk::remove_file(const std::string& path) {
  if (!exists(path)) return missing(path);
  change([path](Names& names) { names.erase(path); }, {path});
  return {};
}

Status PowerDisk::rename(const std::string& from, const std::string& to) {
  if (!exists(from) || !exists(folder_of(to))) return missing(from);
  change(
      [from, to](Names& names) {
        names[to] = names[from];
        names.erase(from);
      },
      {from, to});
  return {};
}

Status PowerDisk::rename_new(const std::string& from, const std::string& to) {
  if (exists(to)) return Error{Failure::io, to, "appeared meanwhile and is not overwritten", ""};
  return rename(from, to);
}

Result<bool> PowerDisk::exchange(const std::string& one, const std::string& other) {
  if (!exists(one) || !exists(other)) return missing(one).error();
  change([one, other](Names& names) { std::swap(names[one], names[other]); }, {one, other});
  return true;
}

Status PowerDisk::touch(const std::string& path) {
  step();
  return exists(path) ? Status() : missing(path);
}

Status PowerDisk::sync_file(const std::string& path) {
  step();
  if (!exists(path)) return missing(path);
  names_[path]->safe_bytes = names_[path]->bytes;
  return {};
}

Status PowerDisk::sync_folder(const std::string& path) {
  step();
  if (!exists(path)) return missing(path);
  std::size_t until = 0;
  for (std::size_t i = 0; i < unsafe_.size(); ++i) {
    for (const std::string& folder : unsafe_[i].folders) {
      if (folder == path) until = i + 1;
    }
  }
  for (std::size_t i = 0; i < until; ++i) unsafe_[i].apply(safe_);
  unsafe_.erase(unsafe_.begin(), unsafe_.begin() + static_cast<std::ptrdiff_t>(until));
  return {};
}

Result<Handle> PowerDisk::open_lock(const std::string& path, bool make) {
  if (!exists(path) && !make) return missing(path).error();
  if (!exists(path)) {
    auto one = node(EntryKind::file, "", 0644);
    change([path, one](Names& names) { names[path] = one; }, {path});
  }
  return Handle(memfd_create("lock", MFD_CLOEXEC));
}

}  // namespace yc::test
