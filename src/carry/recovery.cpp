#include "carry/recovery.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "base/hash.h"
#include "carry/lock.h"
#include "carry/tracked_files.h"

namespace yc {

namespace {

struct Conflict {
  RelPath path;
  std::string what;
};

// What stands now must be what the move left, or undoing would destroy later work.
std::vector<Conflict> conflicts_of(FileSystem& disk, const std::string& root, const Journal& journal) {
  std::vector<Conflict> out;
  std::set<RelPath> leaving;
  for (const JournalItem& item : journal.items) leaving.insert(item.to);
  for (const JournalChange& change : journal.made_files) {
    leaving.insert(change.path);
    auto bytes = disk.read(root + "/" + change.path.str());
    if (bytes && content_hash(*bytes) != change.hash)
      out.push_back({change.path, "was changed after the move, and undo would lose that change"});
  }
  for (const JournalChange& change : journal.dropped_files) {
    if (disk.exists(root + "/" + change.path.str()) && !leaving.contains(change.path))
      out.push_back({change.path, "was made after the move and stands where a file must return"});
  }
  for (const JournalItem& item : journal.items) {
    auto bytes = disk.read(root + "/" + item.to.str());
    if (!bytes) {
      out.push_back({item.to, "is not where the move put it"});
    } else if (content_hash(*bytes) != item.after) {
      out.push_back({item.to, "was changed after the move, and undo would lose that change"});
    }
    if (item.moves() && disk.exists(root + "/" + item.from.str()) && !leaving.contains(item.from))
      out.push_back({item.from, "was made after the move and stands where a file must return"});
  }
  return out;
}

Error refusal(const std::vector<Conflict>& conflicts) {
  std::string message = conflicts.front().what;
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

Result<Recovered> go_back(FileSystem& disk, const std::string& root, StoredJournal stored) {
  Recovered out;
  out.was_unfinished = stored.is_unfinished();
  Carrier carrier(disk, root, stored);
  TrackedFiles tracked(disk, root);
  Status done = mark(disk, stored, "undoing");
  if (done) done = carrier.back();
  if (done) done = tracked.move_back(stored);
  if (done && stored.done) done = mark(disk, stored, "undone");
  if (!done) return given_up(disk, carrier, tracked, stored, done.error());
  if (!stored.done) discard(disk, stored);  // it never stood, so there is nothing to remember
  stored.undone = true;
  // The contents after the move are in the patch; the files are not needed again.
  for (std::size_t i = 0; stored.done && i < stored.journal.items.size(); ++i) {
    if (disk.exists(stored.staged(i))) (void)disk.remove_file(stored.staged(i));
  }
  for (std::size_t i = 0; stored.done && i < stored.journal.made_files.size(); ++i) {
    if (disk.exists(stored.made_file(i))) (void)disk.remove_file(stored.made_file(i));
  }
  out.kept = carrier.kept();
  out.journal = std::move(stored);
  return out;
}

}  // namespace

Result<std::optional<StoredJournal>> unfinished(FileSystem& disk, const std::string& state) {
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

Result<Recovered> undo(FileSystem& disk, const std::string& root, const std::string& state) {
  if (!disk.exists(state)) return Error{Failure::usage, "", "there is no move to undo", ""};
  auto lock = Lock::take(state);
  if (!lock) return lock.error();
  sweep(disk, state);
  auto journals = read_journals(disk, state);
  if (!journals) return journals.error();
  for (StoredJournal& stored : *journals) {
    if (stored.is_unfinished()) return go_back(disk, root, std::move(stored));
  }
  auto standing =
      std::find_if(journals->rbegin(), journals->rend(), [](const auto& item) { return item.stands(); });
  if (standing == journals->rend()) return Error{Failure::usage, "", "there is no move to undo", ""};
  auto conflicts = conflicts_of(disk, root, standing->journal);
  if (!conflicts.empty()) return refusal(conflicts);
  return go_back(disk, root, std::move(*standing));
}

Result<Recovered> resume(FileSystem& disk, const std::string& root, const std::string& state) {
  Error nothing{Failure::usage, "", "there is no unfinished move", ""};
  if (!disk.exists(state)) return nothing;
  auto lock = Lock::take(state);
  if (!lock) return lock.error();
  sweep(disk, state);
  auto open = unfinished(disk, state);
  if (!open) return open.error();
  if (!*open) return nothing;
  Recovered out;
  out.was_unfinished = true;
  out.journal = std::move(**open);
  Carrier carrier(disk, root, out.journal);
  if (Status ok = carrier.forward(false); !ok) return ok.error();
  if (Status ok = carrier.verify(); !ok) return ok.error();
  if (Status ok = TrackedFiles(disk, root).move_forward(out.journal); !ok) return ok.error();
  // "done" first: between the two marks the move counts as one that is being undone, which is unfinished too.
  if (Status ok = mark(disk, out.journal, "done"); !ok) return ok.error();
  if (Status ok = unmark(disk, out.journal, "undoing"); !ok) return ok.error();
  out.journal.done = true;
  out.journal.undoing = false;
  out.kept = carrier.kept();
  return out;
}

}  // namespace yc
