#include "tree/memory_tree.h"

#include <algorithm>

namespace yc {

void MemoryTree::add_folder(const RelPath& path) {
  if (path.is_root()) return;
  if (!entries_.emplace(path, folder_entry()).second) return;
  add_folder(path.parent());
  children_[path.parent()].insert(std::string(path.name()));
}

void MemoryTree::write(const RelPath& path, Bytes bytes, Entry entry) {
  add_folder(path.parent());
  children_[path.parent()].insert(std::string(path.name()));
  entry.size = bytes->size();
  entries_[path] = entry;
  contents_[path] = std::move(bytes);
}

const Entry* MemoryTree::find(const RelPath& path) const {
  auto at = entries_.find(path);
  return at == entries_.end() ? nullptr : &at->second;
}

std::vector<std::string> MemoryTree::children(const RelPath& folder) const {
  auto at = children_.find(folder);
  if (at == children_.end()) return {};
  return {at->second.begin(), at->second.end()};
}

std::vector<RelPath> MemoryTree::files() const {
  std::vector<RelPath> out;
  for (const auto& [path, bytes] : contents_) out.push_back(path);
  std::sort(out.begin(), out.end());
  return out;
}

Result<Bytes> MemoryTree::read(const RelPath& path) const {
  auto at = contents_.find(path);
  if (at == contents_.end()) return Error{Failure::io, path.str(), "there is no such file", ""};
  return at->second;
}

}  // namespace yc
