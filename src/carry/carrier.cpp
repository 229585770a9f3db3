#include "carry/carrier.h"

#include <fmt/format.h>

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
  if (info->inode == item.inode) return true;
  return item.is_edited() && (info->inode == item.staged_inode || info->inode == item.original_inode);
}

bool Carrier::belongs_to_other(std::size_t index, const RelPath& path) const {
  for (std::size_t i = 0; i < journal_.items.size(); ++i) {
    const JournalItem& item = journal_.items[i];
    if (i != index && (item.from == path || item.to == path) && is_at(i, at(path))) return true;
  }
  return false;
}

bool Carrier::holds(const std::string& path, const std::string& known) const {
  auto now = identity_like(disk_, path, known);
  return now && *now == known;
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
      if (!must_fit || holds(at(path), item.before) || holds(at(path), item.after)) return spot;
    }
  }
  return Spot::nowhere;
}

// Gives a foreign file, which stands at `path` or was brought elsewhere from there, another name in that
// folder.
Status Carrier::put_beside(const std::string& file, const RelPath& path) {
  for (int n = 1;; ++n) {
    RelPath beside = RelPath::from_normal(fmt::format("{}.kept-{}", path.str(), n));
    if (disk_.exists(at(beside))) continue;
    if (Status ok = disk_.rename_new(file, at(beside)); !ok) return ok;
    kept_.push_back({path, beside});
    return {};
  }
}

Status Carrier::put_beside(const RelPath& path) {
  return put_beside(at(path), path);
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

// The other content of a file, once it does not stand in the tree any more, goes where it is kept. What is
// there already was put there before.
Status Carrier::let_out(const Swap& swap) {
  if (!disk_.exists(swap.in)) return {};
  if (holds(swap.in, swap.displaced)) {
    if (holds(swap.out, swap.displaced)) return disk_.remove_file(swap.in);
    // What may lie there is a second copy of what stands in the tree.
    return holds(swap.out, swap.wanted) ? disk_.rename(swap.in, swap.out)
                                        : disk_.rename_new(swap.in, swap.out);
  }
  // A copy of what stands in the tree stays; a crash came between the exchange and the answer to it
  // otherwise.
  return holds(swap.in, swap.wanted) ? Status() : put_beside(swap.in, swap.name);
}

// The file to come and the one in the tree change places in one step. Only then is the displaced one looked
// at: whatever somebody wrote there up to that moment is in it, and nothing that is written is ever lost.
Status Carrier::swap(const Swap& swap) {
  if (!swap.is_fresh && holds(swap.path, swap.wanted)) return let_out(swap);
  // The other way was left half done: what is wanted was displaced and not let out yet.
  if (!disk_.exists(swap.in) && holds(swap.out, swap.wanted)) {
    if (Status ok = disk_.rename_new(swap.out, swap.in); !ok) return ok;
  }
  if (!holds(swap.in, swap.wanted))
    return Error{Failure::io, swap.in,
                 "is missing or was changed, so the move can go neither on nor back from here",
                 "bring it back from a backup, or move the journal's folder away to go on without it"};
  if (!disk_.exists(swap.path)) {
    if (swap.is_fresh)
      return Error{Failure::unsettled, swap.name.str(), "was taken away while the move was carried out",
                   "run the command again"};
    if (Status ok = disk_.rename_new(swap.in, swap.path); !ok) return ok;
    return disk_.touch(swap.path);
  }
  Error changed{Failure::unsettled, swap.name.str(), "was changed while the move was carried out",
                "its new content stays in place; run the command again"};
  auto exchanged = disk_.exchange(swap.in, swap.path);
  if (!exchanged) return exchanged.error();
  if (!*exchanged) {
    // A file system without exchange: the look comes before, as late as can be.
    if (!holds(swap.path, swap.displaced)) {
      if (swap.is_fresh) return changed;
      if (Status ok = put_beside(swap.name); !ok) return ok;
    } else if (!holds(swap.out, swap.displaced)) {
      if (Status ok = disk_.link(swap.path, swap.out); !ok) return ok;
    }
    if (Status ok = disk_.rename(swap.in, swap.path); !ok) return ok;
    return disk_.touch(swap.path);
  }
  if (swap.is_fresh && !holds(swap.in, swap.displaced)) {
    auto put_back = disk_.exchange(swap.in, swap.path);
    if (!put_back) return put_back.error();
    return changed;
  }
  if (Status ok = let_out(swap); !ok) return ok;
  // Builds compare times: a file that has another content must look newer than what was made of the old one.
  return disk_.touch(swap.path);
}

Status Carrier::publish(std::size_t index, bool is_fresh) {
  const JournalItem& item = journal_.items[index];
  return swap({at(item.to), item.to, stored_.staged(index), item.after, stored_.original(index), item.before,
               is_fresh});
}

Status Carrier::take_back_content(std::size_t index, bool leaves_foreign) {
  const JournalItem& item = journal_.items[index];
  Spot spot = locate(index);
  const RelPath& name = spot == Spot::to ? item.to : item.from;
  std::string path = spot == Spot::aside ? stored_.aside(index) : at(name);
  bool is_foreign = disk_.exists(path) && !holds(path, item.before) && !holds(path, item.after);
  if (leaves_foreign && is_foreign) return {};
  return swap({path, name, stored_.original(index), item.before, stored_.staged(index), item.after, false});
}

Status Carrier::prove_originals() const {
  for (std::size_t i = 0; i < journal_.items.size(); ++i) {
    const JournalItem& item = journal_.items[i];
    if (!item.is_edited() || holds(stored_.original(i), item.before)) continue;
    // Perhaps it stands in the tree, or was about to be let out of it.
    bool is_at_hand = holds(stored_.staged(i), item.before) || holds(stored_.aside(i), item.before) ||
                      holds(at(item.from), item.before) || holds(at(item.to), item.before);
    if (!is_at_hand)
      return Error{Failure::unsettled, stored_.original(i),
                   fmt::format("is missing or was changed, so the old content of {} cannot be restored",
                               item.to.str()),
                   "nothing was changed; the move as a diff: yellow-compass history --patch " +
                       std::to_string(stored_.number)};
  }
  for (std::size_t i = 0; i < journal_.dropped_files.size(); ++i) {
    const JournalChange& change = journal_.dropped_files[i];
    if (holds(stored_.dropped_file(i), change.hash) || holds(at(change.path), change.hash)) continue;
    return Error{Failure::unsettled, stored_.dropped_file(i),
                 fmt::format("is missing or was changed, so {} cannot be restored", change.path.str()),
                 "nothing was changed; the move as a diff: yellow-compass history --patch " +
                     std::to_string(stored_.number)};
  }
  return {};
}

// Puts a whole file that the journal's folder keeps into the tree.
Status Carrier::bring(const JournalChange& change, const std::string& kept, bool is_fresh) {
  if (!disk_.exists(kept)) return {};  // it was brought already
  // The next build makes anew what it replaces.
  if (change.is_output) return disk_.rename(kept, at(change.path));
  return put_in_place(kept, change.path, is_fresh);
}

// The reverse. What somebody else wrote there meanwhile is put beside.
Status Carrier::take_away(const JournalChange& change, const std::string& kept, bool is_fresh) {
  if (!disk_.exists(at(change.path)) || disk_.exists(kept)) return {};
  // Moved first and looked at then, so that nothing written meanwhile is taken for what was to go.
  if (Status ok = disk_.rename_new(at(change.path), kept); !ok) return ok;
  if (holds(kept, change.hash)) return {};
  if (!is_fresh) return put_beside(kept, change.path);
  if (Status ok = disk_.rename_new(kept, at(change.path)); !ok) return ok;
  return Error{Failure::unsettled, change.path.str(), "was changed while the move was carried out",
               "its new content stays in place; run the command again"};
}

Status Carrier::make_folders(const std::vector<JournalFolder>& folders, bool parents_first, bool is_fresh) {
  for (std::size_t n = 0; n < folders.size(); ++n) {
    const JournalFolder& folder = folders[parents_first ? n : folders.size() - 1 - n];
    auto info = disk_.info(at(folder.path));
    if (info && info->kind == EntryKind::folder) continue;
    if (info && !is_fresh) {
      if (Status ok = put_beside(folder.path); !ok) return ok;
    }
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
  if (Status ok = make_folders(journal_.made, true, is_fresh); !ok) return ok;
  for (std::size_t i = 0; i < journal_.dropped_files.size(); ++i) {
    if (Status ok = take_away(journal_.dropped_files[i], stored_.dropped_file(i), is_fresh); !ok) return ok;
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

Status Carrier::back(bool leaves_foreign) {
  if (Status ok = make_folders(journal_.removed, false, false); !ok) return ok;
  for (std::size_t i = 0; i < journal_.items.size(); ++i) {
    if (!journal_.items[i].is_edited()) continue;
    if (Status ok = take_back_content(i, leaves_foreign); !ok) return ok;
  }
  for (std::size_t i = 0; i < journal_.made_files.size(); ++i) {
    if (Status ok = take_away(journal_.made_files[i], stored_.made_file(i), false); !ok) return ok;
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
    if (!holds(at(item.to), item.after))
      return Error{Failure::unsettled, item.to.str(), "was changed while the move was carried out",
                   "run the command again"};
  }
  for (const JournalChange& change : journal_.made_files) {
    if (!holds(at(change.path), change.hash))
      return Error{Failure::io, change.path.str(), "does not hold what was written", ""};
  }
  return {};
}

Status Carrier::verify_back() const {
  for (const JournalItem& item : journal_.items) {
    // A file that only moved has whatever content it has by now, if it was not taken away altogether.
    if (item.is_edited() && !holds(at(item.from), item.before))
      return Error{Failure::io, item.from.str(), "does not hold what it held before the move", ""};
  }
  for (const JournalChange& change : journal_.dropped_files) {
    if (!holds(at(change.path), change.hash))
      return Error{Failure::io, change.path.str(), "does not hold what it held before the move", ""};
  }
  return {};
}

}  // namespace yc
