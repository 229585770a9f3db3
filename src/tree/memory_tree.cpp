#include "tree/memory_tree.h"

#include <algorithm>

namespace yc {

void MemoryTree::add_folder(const RelPath& path) {
  if (path.is_root()) return;
  if (!entries_.emplace(path, folder_entry()).second) return;
  forget_names();
  add_folder(path.parent());
  children_[path.parent()].insert(std::string(path.name()));
}

void MemoryTree::write(const RelPath& path, Bytes bytes, Entry entry) {
  add_folder(path.parent());
  children_[path.parent()].insert(std::string(path.name()));
  forget_names();
  entry.size = bytes->size();
  entries_[path] = entry;
  if (!contents_.insert_or_assign(path, std::move(bytes)).second) return;
  files_.add(path, entry.kind);
  if (entry.ignored) files_.add_ignored(path);
  files_.settle();
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

Result<Bytes> MemoryTree::read(const RelPath& path) const {
  auto at = contents_.find(path);
  if (at == contents_.end()) return Error{Failure::io, path.str(), "there is no such file", ""};
  return at->second;
}

}  // namespace yc
