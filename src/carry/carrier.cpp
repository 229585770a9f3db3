#include "carry/carrier.h"

#include <fmt/format.h>

#include "base/hash.h"

namespace yc {

Carrier::Carrier(FileSystem& disk, const std::string& root, const StoredJournal& stored)
    : disk_(disk), root_(root), stored_(stored), journal_(stored.journal) {
  for (const JournalItem& item : journal_.items) {
    if (!item.moves()) continue;
    sources_.insert(item.from);
    targets_.insert(item.to);
  }
}

// Whether the file at `path` is this item's, before or after its edit, by its inode. A tree that was copied
// has other inodes; then the content tells.
bool Carrier::is_at(std::size_t index, const std::string& path) const {
  const JournalItem& item = journal_.items[index];
  auto info = disk_.info(path);
  if (!info || info->kind == EntryKind::folder) return false;
  return info->inode == item.inode || (item.is_edited() && info->inode == item.staged_inode);
}

bool Carrier::belongs_to_other(std::size_t index, const RelPath& path) const {
  for (std::size_t i = 0; i < journal_.items.size(); ++i) {
    const JournalItem& item = journal_.items[i];
    if (i != index && (item.from == path || item.to == path) && is_at(i, at(path))) return true;
  }
  return false;
}

Carrier::Content Carrier::content(std::size_t index, const std::string& path) const {
  auto bytes = disk_.read(path);
  if (!bytes) return Content::other;
  std::string hash = content_hash(*bytes);
  const JournalItem& item = journal_.items[index];
  return hash == item.before ? Content::before : hash == item.after ? Content::after : Content::other;
}

Carrier::Spot Carrier::locate(std::size_t index) const {
  const JournalItem& item = journal_.items[index];
  if (disk_.exists(stored_.aside(index))) return Spot::aside;
  if (is_at(index, at(item.to))) return Spot::to;
  if (is_at(index, at(item.from))) return Spot::from;
  // Somebody wrote the file anew, or copied the whole tree.
  for (bool must_fit : {true, false}) {
    for (Spot spot : {Spot::to, Spot::from}) {
      const RelPath& path = spot == Spot::to ? item.to : item.from;
      if (!disk_.exists(at(path)) || belongs_to_other(index, path)) continue;
      if (!must_fit || content(index, at(path)) != Content::other) return spot;
    }
  }
  return Spot::nowhere;
}

// Gives a foreign file another name in the same folder.
Status Carrier::put_beside(const RelPath& path) {
  for (int n = 1;; ++n) {
    RelPath beside = RelPath::from_normal(fmt::format("{}.kept-{}", path.str(), n));
    if (disk_.exists(at(beside))) continue;
    if (Status ok = disk_.rename_new(at(path), at(beside)); !ok) return ok;
    kept_.push_back({path, beside});
    return {};
  }
}

Status Carrier::put_in_place(const std::string& from, const RelPath& to, bool is_fresh) {
  if (!is_fresh && disk_.exists(at(to))) {
    if (Status ok = put_beside(to); !ok) return ok;
  }
  return disk_.rename_new(from, at(to));
}

// Files whose new place is another one's old place wait in the journal's folder until that is free.
Status Carrier::rename_all(bool is_forward, bool is_fresh) {
  const std::set<RelPath>& taken = is_forward ? sources_ : targets_;
  std::vector<std::size_t> direct, waiting;
  for (std::size_t i = 0; i < journal_.items.size(); ++i) {
    const JournalItem& item = journal_.items[i];
    if (!item.moves()) continue;
    Spot spot = is_fresh ? Spot::from : locate(i);
    if (spot == (is_forward ? Spot::to : Spot::from) || spot == Spot::nowhere) continue;
    bool waits = taken.contains(is_forward ? item.to : item.from);
    if (!waits && spot != Spot::aside) {
      direct.push_back(i);
      continue;
    }
    if (spot != Spot::aside) {
      const RelPath& here = spot == Spot::from ? item.from : item.to;
      if (Status ok = disk_.rename_new(at(here), stored_.aside(i)); !ok) return ok;
    }
    waiting.push_back(i);
  }
  for (std::size_t i : direct) {
    const JournalItem& item = journal_.items[i];
    const RelPath &here = is_forward ? item.from : item.to, &there = is_forward ? item.to : item.from;
    if (Status ok = put_in_place(at(here), there, is_fresh); !ok) return ok;
  }
  for (std::size_t i : waiting) {
    const JournalItem& item = journal_.items[i];
    if (Status ok = put_in_place(stored_.aside(i), is_forward ? item.to : item.from, is_fresh); !ok)
      return ok;
  }
  return {};
}

// Puts the edited file in the place of the old one, which gets a name in the journal's folder first.
Status Carrier::publish(std::size_t index, bool is_fresh) {
  const JournalItem& item = journal_.items[index];
  std::string path = at(item.to), staged = stored_.staged(index), original = stored_.original(index);
  if (!is_fresh) {
    Content now = content(index, path);
    if (now == Content::after) return disk_.exists(staged) ? disk_.remove_file(staged) : Status();
    if (!disk_.exists(staged))
      return Error{Failure::io, staged, "is missing, so the move cannot be finished",
                   "run yellow-compass undo"};
    if (now == Content::other && disk_.exists(path)) {
      if (Status ok = put_beside(item.to); !ok) return ok;
    }
  }
  if (disk_.exists(path) && !disk_.exists(original)) {
    if (Status ok = disk_.link(path, original); !ok) return ok;
  }
  return disk_.rename(staged, path);
}

Status Carrier::take_back_content(std::size_t index) {
  const JournalItem& item = journal_.items[index];
  std::string original = stored_.original(index), staged = stored_.staged(index);
  Spot spot = locate(index);
  if (!disk_.exists(original)) return {};  // it was not published, or is back already
  std::string path =
      spot == Spot::aside ? stored_.aside(index) : at(spot == Spot::from ? item.from : item.to);
  Content now = content(index, path);
  if (now == Content::before) return disk_.remove_file(original);  // a second name of the same file
  if (now == Content::after && !disk_.exists(staged)) {
    if (Status ok = disk_.link(path, staged); !ok) return ok;
  }
  if (now == Content::other && spot != Spot::nowhere && spot != Spot::aside) {
    if (Status ok = put_beside(spot == Spot::from ? item.from : item.to); !ok) return ok;
  }
  return disk_.rename(original, path);
}

// Puts a whole file that the journal's folder keeps into the tree.
Status Carrier::bring(const JournalChange& change, const std::string& kept, bool is_fresh) {
  if (!disk_.exists(kept)) return {};  // it was brought already
  return put_in_place(kept, change.path, is_fresh);
}

// The reverse. What somebody else wrote there meanwhile is put beside.
Status Carrier::take_away(const JournalChange& change, const std::string& kept) {
  if (disk_.exists(kept) || !disk_.exists(at(change.path))) return {};
  auto bytes = disk_.read(at(change.path));
  if (!bytes) return bytes.error();
  if (content_hash(*bytes) != change.hash) return put_beside(change.path);
  return disk_.rename_new(at(change.path), kept);
}

Status Carrier::make_folders(const std::vector<JournalFolder>& folders, bool parents_first) {
  for (std::size_t n = 0; n < folders.size(); ++n) {
    const JournalFolder& folder = folders[parents_first ? n : folders.size() - 1 - n];
    if (auto info = disk_.info(at(folder.path)); info && info->kind == EntryKind::folder) continue;
    if (Status ok = disk_.make_folder(at(folder.path), folder.mode); !ok) return ok;
  }
  return {};
}

// A folder into which somebody put something stays.
Status Carrier::remove_folders(const std::vector<JournalFolder>& folders, bool children_first) {
  for (std::size_t n = 0; n < folders.size(); ++n) {
    const JournalFolder& folder = folders[children_first ? n : folders.size() - 1 - n];
    auto info = disk_.info(at(folder.path));
    if (!info || info->kind != EntryKind::folder) continue;
    auto names = disk_.list(at(folder.path));
    if (!names || !names->empty()) continue;
    if (Status ok = disk_.remove_folder(at(folder.path)); !ok) return ok;
  }
  return {};
}

Status Carrier::sync() {
  std::set<RelPath> folders;
  for (const JournalItem& item : journal_.items) {
    folders.insert(item.from.parent());
    folders.insert(item.to.parent());
  }
  for (const auto* list : {&journal_.made_files, &journal_.dropped_files}) {
    for (const JournalChange& change : *list) folders.insert(change.path.parent());
  }
  for (const auto* list : {&journal_.made, &journal_.removed}) {
    for (const JournalFolder& folder : *list) folders.insert(folder.path.parent());
  }
  for (const RelPath& folder : folders) {
    std::string name = folder.is_root() ? root_ : at(folder);
    if (!disk_.exists(name)) continue;
    if (Status ok = disk_.sync_folder(name); !ok) return ok;
  }
  return disk_.sync_folder(stored_.folder);
}

Status Carrier::forward(bool is_fresh) {
  if (Status ok = make_folders(journal_.made, true); !ok) return ok;
  for (std::size_t i = 0; i < journal_.dropped_files.size(); ++i) {
    if (Status ok = take_away(journal_.dropped_files[i], stored_.dropped_file(i)); !ok) return ok;
  }
  if (Status ok = rename_all(true, is_fresh); !ok) return ok;
  for (std::size_t i = 0; i < journal_.made_files.size(); ++i) {
    if (Status ok = bring(journal_.made_files[i], stored_.made_file(i), is_fresh); !ok) return ok;
  }
  for (std::size_t i = 0; i < journal_.items.size(); ++i) {
    if (!journal_.items[i].is_edited()) continue;
    if (Status ok = publish(i, is_fresh); !ok) return ok;
  }
  if (Status ok = remove_folders(journal_.removed, true); !ok) return ok;
  return sync();
}

Status Carrier::back() {
  if (Status ok = make_folders(journal_.removed, false); !ok) return ok;
  for (std::size_t i = 0; i < journal_.items.size(); ++i) {
    if (!journal_.items[i].is_edited()) continue;
    if (Status ok = take_back_content(i); !ok) return ok;
  }
  for (std::size_t i = 0; i < journal_.made_files.size(); ++i) {
    if (Status ok = take_away(journal_.made_files[i], stored_.made_file(i)); !ok) return ok;
  }
  if (Status ok = rename_all(false, false); !ok) return ok;
  for (std::size_t i = 0; i < journal_.dropped_files.size(); ++i) {
    if (Status ok = bring(journal_.dropped_files[i], stored_.dropped_file(i), false); !ok) return ok;
  }
  if (Status ok = remove_folders(journal_.made, false); !ok) return ok;
  return sync();
}

Status Carrier::verify() const {
  for (std::size_t i = 0; i < journal_.items.size(); ++i) {
    const JournalItem& item = journal_.items[i];
    // A rename changes no content, so that of a file which only moved need not be read again.
    bool fits = item.is_edited() ? content(i, at(item.to)) == Content::after
                                 : is_at(i, at(item.to)) || content(i, at(item.to)) == Content::before;
    if (!fits) return Error{Failure::io, item.to.str(), "does not hold what was written", ""};
  }
  for (const JournalChange& change : journal_.made_files) {
    auto bytes = disk_.read(at(change.path));
    if (!bytes || content_hash(*bytes) != change.hash)
      return Error{Failure::io, change.path.str(), "does not hold what was written", ""};
  }
  return {};
}

}  // namespace yc
