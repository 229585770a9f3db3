#include "carry/recovery.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "carry/lock.h"
#include "carry/tracked_files.h"

namespace yc {

namespace {

struct Conflict {
  RelPath path;
  std::string_view what;  // a literal
};

// What stands where a file or a folder must return, and is no folder on the way to it.
std::optional<RelPath> in_the_way(FileSystem& disk, const std::string& root, const RelPath& path) {
  std::optional<RelPath> out;
  for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
    auto info = disk.info(root + "/" + up.str());
    if (info && info->kind != EntryKind::folder) out = up;
  }
  return out;
}

// What stands now must be what the move left, or undoing would destroy later work.
std::vector<Conflict> conflicts_of(FileSystem& disk, const std::string& root, const Journal& journal) {
  std::vector<Conflict> out;
  std::set<RelPath> leaving, told;
  for (const JournalItem& item : journal.items) leaving.insert(item.to);
  auto is_as = [&](const RelPath& path, const std::string& known) {
    auto now = identity_like(disk, root + "/" + path.str(), known);
    return now && *now == known;
  };
  auto check_return = [&](const RelPath& path) {
    if (auto other = in_the_way(disk, root, path); other && told.insert(*other).second)
      out.push_back({*other, "was made after the move and stands where a folder must return"});
    if (disk.exists(root + "/" + path.str()) && !leaving.contains(path) && told.insert(path).second)
      out.push_back({path, "was made after the move and stands where a file must return"});
  };
  for (const JournalChange& change : journal.made_files) {
    leaving.insert(change.path);
    if (disk.exists(root + "/" + change.path.str()) && !is_as(change.path, change.hash))
      out.push_back({change.path, "was changed after the move, and undo would lose that change"});
  }
  for (const JournalChange& change : journal.dropped_files) {
    auto now = disk.info(root + "/" + change.path.str());
    bool is_replaced = change.is_output && now && now->kind == EntryKind::file;
    if (!is_replaced) check_return(change.path);
  }
  for (const JournalItem& item : journal.items) {
    if (!disk.exists(root + "/" + item.to.str())) {
      out.push_back({item.to, "is not where the move put it"});
    } else if (!is_as(item.to, item.after)) {
      out.push_back({item.to, "was changed after the move, and undo would lose that change"});
    }
    if (item.moves()) check_return(item.from);
  }
  for (const JournalFolder& folder : journal.removed) {
    auto info = disk.info(root + "/" + folder.path.str());
    if (info && info->kind != EntryKind::folder && !leaving.contains(folder.path) &&
        told.insert(folder.path).second)
      out.push_back({folder.path, "was made after the move and stands where a folder must return"});
  }
  return out;
}

Error refusal(const std::vector<Conflict>& conflicts) {
  std::string message(conflicts.front().what);
  for (std::size_t i = 1; i < conflicts.size(); ++i)
    message += fmt::format("; {} {}", conflicts[i].path.str(), conflicts[i].what);
  return Error{Failure::unsettled, conflicts.front().path.str(), message,
               "save or revert what was done there since, then undo"};
}

// After a failure on the way back: the moved tree again if there was one, or word of how to go on.
Error given_up(FileSystem& disk, Carrier& carrier, TrackedFiles& tracked, const StoredJournal& stored,
               Error error) {
  error.next = "mend the cause, then run yellow-compass undo or resume";
  if (!stored.done || stored.undoing) return error;
  Status moved = carrier.forward(false);
  if (moved) moved = tracked.move_forward(stored);
  if (moved) moved = unmark(disk, stored, "undone");
  if (moved) moved = unmark(disk, stored, "undoing");
  if (moved) error.next = "the tree is as it was before undo; mend the cause and try again";
  return error;
}

Result<Recovered> go_back(FileSystem& disk, const StatePlace& place, StoredJournal stored) {
  const std::string& root = place.root;
  Recovered out;
  out.was_unfinished = stored.is_unfinished();
  Carrier carrier(disk, root, stored);
  if (Status ok = carrier.prove_originals(); !ok) return ok.error();
  TrackedFiles tracked(disk, place);
  Status done = mark(disk, stored, "undoing");
  if (done) done = carrier.back();
  if (done) done = carrier.verify_back();
  if (done) done = tracked.move_back(stored);
  if (done && stored.done) done = mark(disk, stored, "undone");
  if (!done) return given_up(disk, carrier, tracked, stored, done.error());
  if (!stored.done) discard(disk, stored);  // it never stood, so there is nothing to remember
  stored.undone = true;
  // The contents after the move are in the patch; the files are not needed again.
  for (std::size_t i = 0; stored.done && i < stored.journal.items.size(); ++i) {
    for (const std::string& file : {stored.staged(i), stored.original(i)}) {
      if (disk.exists(file)) (void)disk.remove_file(file);
    }
  }
  for (std::size_t i = 0; stored.done && i < stored.journal.made_files.size(); ++i) {
    if (disk.exists(stored.made_file(i))) (void)disk.remove_file(stored.made_file(i));
  }
  out.kept = carrier.kept();
  out.journal = std::move(stored);
  return out;
}

}  // namespace

Result<std::optional<StoredJournal>> unfinished(FileSystem& disk, const State& state) {
  auto journals = read_journals(disk, state);
  if (!journals) return journals.error();
  for (StoredJournal& stored : *journals) {
    if (stored.is_unfinished()) return std::optional(std::move(stored));
  }
  return std::optional<StoredJournal>();
}

Error unfinished_error(const StoredJournal& stored) {
  return Error{Failure::unsettled, "", fmt::format("a move was not finished: {}", stored.journal.command),
               "yellow-compass undo goes back to the old tree, yellow-compass resume on to the new one"};
}

namespace {

// The state of a tree in which something is to be recovered, with its lock.
struct Opened {
  State state;
  Lock lock;
};

Result<Opened> open_state(FileSystem& disk, const StatePlace& place, const Error& nothing) {
  auto state = State::open(disk, place);
  if (!state) return state.error();
  if (!state->is_there() || !disk.exists(state->journals())) return nothing;
  auto lock = Lock::take(disk, state->folder());
  if (!lock) return lock.error();
  sweep(disk, *state);
  return Opened{std::move(*state), std::move(*lock)};
}

}  // namespace

Result<Recovered> undo(FileSystem& disk, const StatePlace& place) {
  Error nothing{Failure::usage, "", "there is no move to undo", ""};
  auto opened = open_state(disk, place, nothing);
  if (!opened) return opened.error();
  auto journals = read_journals(disk, opened->state);
  if (!journals) return journals.error();
  for (StoredJournal& stored : *journals) {
    if (stored.is_unfinished()) return go_back(disk, place, std::move(stored));
  }
  auto standing =
      std::find_if(journals->rbegin(), journals->rend(), [](const auto& item) { return item.stands(); });
  if (standing == journals->rend()) return nothing;
  auto conflicts = conflicts_of(disk, place.root, standing->journal);
  if (!conflicts.empty()) return refusal(conflicts);
  return go_back(disk, place, std::move(*standing));
}

Result<Recovered> resume(FileSystem& disk, const StatePlace& place) {
  Error nothing{Failure::usage, "", "there is no unfinished move", ""};
  auto opened = open_state(disk, place, nothing);
  if (!opened) return opened.error();
  auto open = unfinished(disk, opened->state);
  if (!open) return open.error();
  if (!*open) return nothing;
  Recovered out;
  out.was_unfinished = true;
  out.journal = std::move(**open);
  Carrier carrier(disk, place.root, out.journal);
  if (Status ok = carrier.forward(false); !ok) return ok.error();
  if (Status ok = carrier.verify(); !ok) return ok.error();
  if (Status ok = TrackedFiles(disk, place).move_forward(out.journal); !ok) return ok.error();
  // "done" first: between the two marks the move counts as one that is being undone, which is unfinished too.
  if (Status ok = mark(disk, out.journal, "done"); !ok) return ok.error();
  if (Status ok = unmark(disk, out.journal, "undoing"); !ok) return ok.error();
  out.journal.done = true;
  out.journal.undoing = false;
  out.kept = carrier.kept();
  return out;
}

}  // namespace yc
