#include "tree/overlay_tree.h"

#include <algorithm>

#include "base/in_order.h"

namespace yc {

OverlayTree::OverlayTree(const TreeReader& base, const MoveSet& moves, const FileChanges& changes)
    : base_(base), moves_(moves) {
  for (const Move& move : moves.files()) gone_.insert(move.from);
  gone_.insert(changes.dropped.begin(), changes.dropped.end());
  for (const Move& move : moves.files()) {
    const Entry* entry = base.find(move.from);
    add(move.to, entry ? *entry : Entry{});
  }
  for (const auto& [path, bytes] : changes.made) {
    Entry entry;
    entry.size = bytes.size();
    add(path, entry);
    made_[path] = std::make_shared<std::string>(bytes);
  }
  for (const Move& move : moves.nested()) gone_.insert(move.from / ".git");
  // Folders whose last file left go too.
  std::set<RelPath> emptied;
  for (const Move& move : moves.files()) emptied.insert(move.from.parent());
  for (const RelPath& path : changes.dropped) emptied.insert(path.parent());
  std::vector<RelPath> queue(emptied.begin(), emptied.end());
  for (const Move& move : moves.requested()) {
    if (base.is_folder(move.from)) queue.push_back(move.from);
  }
  while (!queue.empty()) {
    RelPath folder = queue.back();
    queue.pop_back();
    if (folder.is_root() || added_.contains(folder) || gone_.contains(folder)) continue;
    bool holds_any = false;
    for (const std::string& name : base.children(folder))
      holds_any = holds_any || !gone_.contains(folder / name);
    if (holds_any) continue;
    gone_.insert(folder);
    queue.push_back(folder.parent());
  }
}

const FileList& OverlayTree::listing() const {
  std::call_once(listed_, [this] { list(); });
  return files_;
}

void OverlayTree::list() const {
  std::vector<RelPath> arriving, leaving(gone_.begin(), gone_.end());
  for (const Move& move : moves_.files()) arriving.push_back(move.to);
  for (const auto& [path, bytes] : made_) arriving.push_back(path);
  std::sort(arriving.begin(), arriving.end());
  arriving.erase(std::unique(arriving.begin(), arriving.end()), arriving.end());
  std::sort(leaving.begin(), leaving.end());
  files_.reserve(base_.files().size() + arriving.size());
  InOrder links(base_.listing().links()), gone(leaving);
  auto next = arriving.begin();
  for (const RelPath& path : base_.files()) {
    for (; next != arriving.end() && *next < path; ++next) files_.add(*next, added_.at(*next).kind);
    bool arrives = next != arriving.end() && *next == path;  // it takes the place of what was there
    bool leaves = gone.has(path), is_link = links.has(path);
    if (!arrives && !leaves) files_.add(path, is_link ? EntryKind::link : EntryKind::file);
  }
  for (; next != arriving.end(); ++next) files_.add(*next, added_.at(*next).kind);
  for (const RelPath& path : base_.listing().ignored()) {
    if (!gone_.contains(path)) files_.add_ignored(path);
  }
  files_.settle();
}

// A path that is not in the base tree, or not this file there; with the folders that lead to it.
void OverlayTree::add(const RelPath& path, const Entry& entry) {
  added_[path] = entry;
  for (RelPath below = path; !below.is_root(); below = below.parent()) {
    RelPath up = below.parent();
    added_names_[up].insert(std::string(below.name()));
    Entry folder;
    folder.kind = EntryKind::folder;
    if (!up.is_root()) added_.emplace(up, folder);
  }
}

const Entry* OverlayTree::find(const RelPath& path) const {
  if (auto at = added_.find(path); at != added_.end()) return &at->second;
  if (gone_.contains(path)) return nullptr;
  return base_.find(path);
}

std::vector<std::string> OverlayTree::children(const RelPath& folder) const {
  auto added = added_names_.find(folder);
  std::vector<std::string> out;
  for (std::string& name : base_.children(folder)) {
    RelPath path = folder / name;
    if (gone_.contains(path) || added_.contains(path)) continue;
    out.push_back(std::move(name));
  }
  if (added != added_names_.end()) {
    out.insert(out.end(), added->second.begin(), added->second.end());
    std::sort(out.begin(), out.end());
  }
  return out;
}

Result<Bytes> OverlayTree::read(const RelPath& path) const {
  if (auto made = made_.find(path); made != made_.end()) return made->second;
  RelPath old_path = path;
  if (added_.contains(path)) {
    old_path = moves_.unmap_file(path);
  } else if (gone_.contains(path)) {
    return Error{Failure::io, path.str(), "there is no such file", ""};
  }
  Result<Bytes> bytes = base_.read(old_path);
  if (!bytes || !edits_) return bytes;
  auto edits = edits_->find(old_path);
  if (edits == edits_->end() || edits->second.empty()) return bytes;
  {
    std::lock_guard lock(edited_mutex_);
    auto known = edited_.find(old_path);
    if (known != edited_.end() && known->second.items == edits->second.items()) return known->second.bytes;
  }
  auto fresh = std::make_shared<const std::string>(edits->second.apply(**bytes));
  std::lock_guard lock(edited_mutex_);
  edited_[old_path] = {edits->second.items(), fresh};
  return Bytes(fresh);
}

}  // namespace yc
