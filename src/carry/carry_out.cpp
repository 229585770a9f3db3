#include "carry/carry_out.h"

#include <fmt/format.h>

#include <algorithm>
#include <ctime>
#include <filesystem>
#include <map>
#include <set>
#include <unordered_map>

#include "base/hash.h"
#include "carry/carrier.h"
#include "carry/digest.h"
#include "carry/folders.h"
#include "carry/locked_state.h"
#include "carry/recovery.h"
#include "carry/tracked_files.h"
#include "tree/overlay_tree.h"

namespace yc {

namespace {

Error stale_plan(const RelPath& path, const std::string& what) {
  return Error{Failure::unsettled, path.str(), what, "nothing was changed; run the command again"};
}

// One file of the journal, as it stands now; it must be as it was when the plan was made.
Result<JournalItem> item_of(FileSystem& disk, const DiskTree& tree, const Plan& plan, const RelPath& path) {
  JournalItem item;
  item.from = path;
  item.to = plan.moves.map_file(path);
  std::string full = tree.absolute(path);
  auto info = disk.info(full);
  if (!info) return stale_plan(path, "is gone since the move was planned");
  item.kind = info->kind;
  item.inode = info->inode;
  auto edits = plan.edits.find(path);
  bool is_edited = edits != plan.edits.end() && !edits->second.empty();
  const Entry* entry = tree.find(path);
  if (!entry || entry->kind != info->kind || info->is_special || info->size != entry->size)
    return stale_plan(path, "was changed while the move was planned");
  if (!is_edited) {
    // Of one that is edited the content tells.
    if (info->mtime_ns != entry->mtime_ns) return stale_plan(path, "was changed while the move was planned");
    auto known = identity(disk, full, false);
    if (!known) return known.error();
    item.before = item.after = *known;
    return item;
  }
  auto bytes = disk.read(full);
  if (!bytes) return bytes.error();
  auto expected = plan.hashes.find(path);
  if (expected == plan.hashes.end() || content_hash(*bytes) != expected->second)
    return stale_plan(path, "was changed while the move was planned");
  item.before = digest_of(*bytes);
  item.after = digest_of(edits->second.apply(*bytes));
  return item;
}

// New contents of files that no plan edits: by path before the move.
using Overrides = std::map<RelPath, std::string>;

// A submodule's `.git` file names its data by a relative path, which must lead there from the new place. The
// data must be in the repository around it: what a tree's files name elsewhere is not written to.
Status prepare_nested(FileSystem& disk, const DiskTree& tree, const TrackedFiles& tracked,
                      const MoveSet& moves, Journal& journal, Overrides& overrides) {
  namespace fs = std::filesystem;
  constexpr std::string_view kHead = "gitdir: ";
  for (const Move& move : moves.nested()) {
    RelPath file = move.from / ".git";
    auto text = disk.read(tree.absolute(file));
    if (!text) return text.error();
    auto info = disk.info(tree.absolute(file));
    if (!info) return info.error();
    std::string target = text->starts_with(kHead) ? text->substr(kHead.size()) : "";
    while (!target.empty() && (target.back() == '\n' || target.back() == '\r')) target.pop_back();
    fs::path git_dir = fs::path(tree.absolute(move.from)) / target;
    std::error_code error;
    if (target.empty() || !fs::is_directory(git_dir, error))
      return Error{Failure::unsettled, file.str(), "does not lead to the data of a repository",
                   "mend it, then move"};
    git_dir = fs::canonical(git_dir, error);
    if (!tracked.holds(git_dir.string()))
      return Error{Failure::unsettled, file.str(),
                   "leads to " + git_dir.string() + ", outside of the repository here",
                   "move it with version control itself, then run yellow-compass catch-up"};
    JournalItem item;
    item.from = file;
    item.to = move.to / ".git";
    item.inode = info->inode;
    item.before = item.after = digest_of(*text);
    if (!fs::path(target).is_absolute()) {
      std::string fresh =
          std::string(kHead) + git_dir.lexically_relative(tree.absolute(move.to)).string() + "\n";
      item.after = digest_of(fresh);
      if (item.after != item.before) overrides[file] = fresh;
    }
    journal.items.push_back(std::move(item));
    journal.nested.push_back({move, git_dir.string(), ""});
  }
  return {};
}

Result<Journal> prepare(FileSystem& disk, const DiskTree& tree, const TrackedFiles& tracked, const Plan& plan,
                        Overrides& overrides) {
  Journal journal;
  journal.time = std::time(nullptr);
  journal.requested = plan.moves.requested();
  Folders folders = folders_of(tree, plan);
  for (const RelPath& folder : folders.made) journal.made.push_back({folder, 0});
  for (const RelPath& folder : folders.removed) journal.removed.push_back({folder, 0});
  for (JournalFolder& folder : journal.removed) {
    auto info = disk.info(tree.absolute(folder.path));
    if (!info) return info.error();
    folder.mode = info->mode;
  }
  std::set<RelPath> touched;
  for (const auto& [path, edits] : plan.edits) {
    if (!edits.empty()) touched.insert(path);
  }
  for (const Move& move : plan.moves.files()) touched.insert(move.from);
  for (const RelPath& path : touched) {
    auto item = item_of(disk, tree, plan, path);
    if (!item) return item.error();
    journal.items.push_back(std::move(*item));
  }
  std::set<RelPath> leaving;
  for (const JournalItem& item : journal.items) {
    if (item.moves()) leaving.insert(item.from);
  }
  for (const JournalItem& item : journal.items) {
    if (item.moves() && !leaving.contains(item.to) && disk.exists(tree.absolute(item.to)))
      return stale_plan(item.to, "was made while the move was planned");
  }
  for (const auto& [path, bytes] : plan.changes.made) {
    bool is_free = !disk.exists(tree.absolute(path)) || plan.moves.moves(path);
    if (!is_free) return stale_plan(path, "was made while the move was planned");
    journal.made_files.push_back({path, digest_of(bytes), false});
  }
  for (const RelPath& path : plan.changes.dropped) {
    auto now = disk.read(tree.absolute(path));
    auto then = tree.read(path);
    if (!now || !then || *now != **then) return stale_plan(path, "was changed while the move was planned");
    const Entry* entry = tree.find(path);
    journal.dropped_files.push_back({path, digest_of(*now), entry && entry->ignored});
  }
  if (Status ok = prepare_nested(disk, tree, tracked, plan.moves, journal, overrides); !ok) return ok.error();
  return journal;
}

// Writes the new contents beside the journal, each with its file's own permissions and attributes, and copies
// of the old ones: the file itself may have other names, through which somebody could change what is to come
// back.
Status stage(FileSystem& disk, const DiskTree& tree, const Plan& plan, const Overrides& overrides,
             StoredJournal& stored) {
  for (std::size_t i = 0; i < stored.journal.items.size(); ++i) {
    JournalItem& item = stored.journal.items[i];
    if (!item.is_edited()) continue;
    std::string path = tree.absolute(item.from);
    auto bytes = disk.read(path);
    if (!bytes) return bytes.error();
    if (digest_of(*bytes) != item.before)
      return stale_plan(item.from, "was changed while the move was planned");
    auto fixed = overrides.find(item.from);
    std::string fresh = fixed != overrides.end() ? fixed->second : plan.edits.at(item.from).apply(*bytes);
    if (Status ok = disk.write_like(stored.staged(i), fresh, path); !ok) return ok;
    if (Status ok = disk.write_like(stored.original(i), *bytes, path); !ok) return ok;
    auto info = disk.info(stored.staged(i)), old = disk.info(stored.original(i));
    if (!info) return info.error();
    if (!old) return old.error();
    item.staged_inode = info->inode;
    item.original_inode = old->inode;
  }
  for (std::size_t i = 0; i < stored.journal.made_files.size(); ++i) {
    const std::string& bytes = plan.changes.made.at(stored.journal.made_files[i].path);
    if (Status ok = disk.write_new(stored.made_file(i), bytes, 0644); !ok) return ok;
  }
  return {};
}

// After a failure on the way: the old tree again, or word of how to get it.
Error taken_back(FileSystem& disk, const DiskTree& tree, const StoredJournal& stored, TrackedFiles& tracked,
                 Error error) {
  Carrier carrier(disk, tree.root(), stored);
  Status back = carrier.back(true);
  if (back) back = tracked.move_back(stored);
  if (back) {
    discard(disk, stored);
    bool says_next = error.failure == Failure::unsettled && !error.next.empty();
    if (!says_next) error.next = "the tree is as it was; mend the cause and try again";
    return error;
  }
  error.failure = Failure::io;
  error.message += "; and taking it back failed: " + back.error().place + " " + back.error().message;
  error.next = "mend the cause, then run yellow-compass undo (or resume, to finish the move)";
  return error;
}

}  // namespace

Result<StoredJournal> carry_out(FileSystem& disk, const DiskTree& tree, const Plan& plan,
                                const StatePlace& place, const CarryOptions& options) {
  auto locked = lock_state(disk, place);
  if (!locked) return locked.error();
  const State& state = locked->state;
  sweep(disk, state);
  TrackedFiles tracked(disk, place);
  Overrides overrides;
  auto journal = prepare(disk, tree, tracked, plan, overrides);
  if (!journal) return journal.error();
  if (options.stage) {
    if (Status ok = tracked.note(*journal); !ok) return ok.error();
  }
  journal->command = options.command;
  auto stored = begin_journal(disk, state);
  if (!stored) return stored;
  stored->journal = std::move(*journal);
  Status ready = stage(disk, tree, plan, overrides, *stored);
  if (ready && !options.patch.empty()) ready = disk.write_new(stored->folder + "/patch", options.patch, 0600);
  if (ready) ready = write_journal(disk, state, *stored);
  if (!ready) {
    discard(disk, *stored);
    Error error = ready.error();
    if (error.next.empty()) error.next = "nothing was changed; mend the cause and try again";
    return error;
  }
  Carrier carrier(disk, tree.root(), *stored);
  Status done = carrier.forward(true);
  if (done) done = carrier.verify();
  if (done) done = tracked.move_forward(*stored);
  if (done) done = mark(disk, *stored, "done");
  if (!done) return taken_back(disk, tree, *stored, tracked, done.error());
  stored->done = true;
  return stored;
}

}  // namespace yc
