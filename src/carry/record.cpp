#include "carry/record.h"

#include <algorithm>
#include <ctime>
#include <set>

#include "carry/digest.h"
#include "carry/locked_state.h"

namespace yc {

namespace {

std::map<RelPath, RelPath> places_of(const MadeMove& move) {
  std::map<RelPath, RelPath> out;
  for (const Move& file : move.files) out.emplace(file.from, file.to);
  for (const auto& [path, edit] : move.edits) out.emplace(path, path);
  return out;
}

Result<JournalItem> record_item(FileSystem& disk, const std::string& root, const MadeMove& move,
                                const RelPath& from, const RelPath& to) {
  JournalItem item;
  item.from = from;
  item.to = to;
  std::string full = root + "/" + to.str();
  auto info = disk.info(full);
  if (!info) return info.error();
  item.kind = info->kind;
  item.inode = item.staged_inode = info->inode;
  auto edit = move.edits.find(from);
  auto known = identity(disk, full, edit != move.edits.end());
  if (!known) return known.error();
  item.before = item.after = *known;
  if (edit != move.edits.end()) item.before = digest_of(edit->second.before);
  return item;
}

}  // namespace

std::vector<RelPath> not_as_moved(FileSystem& disk, const std::string& root, const MadeMove& move) {
  std::vector<RelPath> out;
  for (const auto& [from, to] : places_of(move)) {
    std::string full = root + "/" + to.str();
    auto edit = move.edits.find(from);
    bool is_there = disk.exists(full);
    if (is_there && edit != move.edits.end()) {
      auto bytes = disk.read(full);
      is_there = bytes && *bytes == edit->second.after;
    }
    if (!is_there) out.push_back(to);
  }
  return out;
}

Result<StoredJournal> record_move(FileSystem& disk, const StatePlace& place, const MadeMove& move) {
  auto locked = lock_state(disk, place);
  if (!locked) return locked.error();
  const State& state = locked->state;
  if (auto other = not_as_moved(disk, place.root, move); !other.empty())
    return Error{Failure::unsettled, other.front().str(), "is not as the move leaves it",
                 "save it, and the move can be recorded"};
  Journal journal;
  journal.command = move.command;
  journal.time = std::time(nullptr);
  journal.requested = move.requested;
  journal.made = move.made;
  journal.removed = move.removed;
  for (const auto& [from, to] : places_of(move)) {
    auto item = record_item(disk, place.root, move, from, to);
    if (!item) return item.error();
    if (item->moves() || item->is_edited()) journal.items.push_back(std::move(*item));
  }
  auto stored = begin_journal(disk, state);
  if (!stored) return stored;
  stored->journal = std::move(journal);
  Status ready;
  for (std::size_t i = 0; ready && i < stored->journal.items.size(); ++i) {
    JournalItem& item = stored->journal.items[i];
    if (!item.is_edited()) continue;
    ready = disk.write_like(stored->original(i), move.edits.at(item.from).before,
                            place.root + "/" + item.to.str());
    auto info = ready ? disk.info(stored->original(i)) : Result<FileInfo>(FileInfo{});
    if (info) item.original_inode = info->inode;
  }
  if (ready && !move.patch.empty()) ready = disk.write_new(stored->folder + "/patch", move.patch, 0600);
  if (ready) ready = write_journal(disk, state, *stored);
  if (ready) ready = mark(disk, *stored, "done");
  if (!ready) {
    discard(disk, *stored);
    return ready.error();
  }
  stored->done = true;
  return stored;
}

}  // namespace yc
