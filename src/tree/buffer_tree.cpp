#include "tree/buffer_tree.h"

#include <algorithm>

#include "base/name_search.h"

namespace yc {

void BufferTree::set(const RelPath& path, Bytes bytes) {
  const Entry* entry = saved_->find(path);
  if (!entry || entry->kind != EntryKind::file) return;
  Entry own = *entry;
  own.size = bytes->size();
  entries_.insert_or_assign(path, own);
  texts_.insert_or_assign(path, std::move(bytes));
}

const Entry* BufferTree::find(const RelPath& path) const {
  auto own = entries_.find(path);
  return own != entries_.end() ? &own->second : saved_->find(path);
}

Result<Bytes> BufferTree::read(const RelPath& path) const {
  auto own = texts_.find(path);
  return own != texts_.end() ? Result<Bytes>(own->second) : saved_->read(path);
}

std::optional<std::string_view> BufferTree::peek(const RelPath& path, std::string& buffer) const {
  auto own = texts_.find(path);
  if (own != texts_.end()) return std::string_view(*own->second);
  return saved_->peek(path, buffer);
}

std::vector<char> BufferTree::ruled_out(const std::vector<RelPath>& files, const NameSearch& names) const {
  if (!known_) return std::vector<char>(files.size());
  std::vector<char> out = known_->ruled_out(files, names);
  for (const auto& [path, text] : texts_) {
    auto at = std::lower_bound(files.begin(), files.end(), path);
    if (at != files.end() && *at == path) out[static_cast<std::size_t>(at - files.begin())] = 0;
  }
  return out;
}

bool BufferTree::may_hold(const RelPath& path, const NameSearch& names) const {
  auto own = texts_.find(path);
  return own != texts_.end() ? names.finds_any(*own->second) : saved_->may_hold(path, names);
}

}  // namespace yc
