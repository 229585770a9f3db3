#include "carry/carry_out.h"

#include <fmt/format.h>
#include <signal.h>
#include <unistd.h>

#include <algorithm>
#include <ctime>
#include <filesystem>
#include <set>

#include "base/hash.h"
#include "tree/overlay_tree.h"

namespace yc {

namespace {

// Only one program changes a tree at a time. The lock file names its process.
class Lock {
 public:
  Lock(FileSystem& disk, std::string path) : disk_(disk), path_(std::move(path)) {}
  ~Lock() {
    if (held_) (void)disk_.remove_file(path_);
  }
  Lock(const Lock&) = delete;
  Lock& operator=(const Lock&) = delete;

  Status take() {
    if (auto owner = disk_.read(path_)) {
      int process = std::atoi(owner->c_str());
      bool alive = process > 0 && (kill(process, 0) == 0 || errno == EPERM);
      if (alive) {
        return Error{Failure::unsettled, path_, fmt::format("process {} is changing this tree", process),
                     "wait for it and try again"};
      }
      (void)disk_.remove_file(path_);  // its owner is gone
    }
    if (Status ok = disk_.write_new(path_, std::to_string(getpid()) + "\n", 0644); !ok) return ok;
    held_ = true;
    return {};
  }

 private:
  FileSystem& disk_;
  std::string path_;
  bool held_ = false;
};

Status make_state(FileSystem& disk, const std::string& state) {
  if (disk.exists(state)) return {};
  return disk.make_folder(state);
}

// A place for staged files on the same file system as the tree: in the state folder where that is possible.
Result<std::string> make_scratch(FileSystem& disk, const std::string& root, const std::string& state) {
  auto here = disk.device(root), there = disk.device(state);
  if (!here) return here.error();
  if (!there) return there.error();
  std::string scratch =
      (*here == *there ? state + "/scratch" : root + "/.yellow-compass-scratch") + std::to_string(getpid());
  if (Status ok = disk.make_folder(scratch); !ok) return ok.error();
  return scratch;
}

Error stale(const RelPath& path, const std::string& what) {
  return Error{Failure::unsettled, path.str(), what, "nothing was changed; run the command again"};
}

struct Prepared {
  Change change;
  Journal journal;
  std::vector<std::string> originals;
};

// Folders that must be made, parents first, and folders that the move empties, children first.
void plan_folders(const DiskTree& tree, const MoveSet& moves, Change& change) {
  OverlayTree after(tree, moves);
  std::set<RelPath> make, gone;
  for (const Move& move : moves.files()) {
    for (RelPath up = move.to.parent(); !up.is_root() && !tree.is_folder(up); up = up.parent())
      make.insert(up);
    for (RelPath up = move.from.parent(); !up.is_root(); up = up.parent()) {
      if (!after.find(up)) gone.insert(up);
    }
  }
  for (const Move& move : moves.requested()) {
    if (!tree.is_folder(move.from)) continue;
    std::vector<RelPath> stack = {move.from};
    while (!stack.empty()) {
      RelPath folder = stack.back();
      stack.pop_back();
      if (!after.find(folder)) gone.insert(folder);
      for (const std::string& name : tree.children(folder)) {
        if (tree.is_folder(folder / name) && !tree.find(folder / name)->ignored)
          stack.push_back(folder / name);
      }
    }
  }
  change.make.assign(make.begin(), make.end());
  change.remove.assign(gone.rbegin(), gone.rend());
}

Result<Prepared> prepare(FileSystem& disk, const DiskTree& tree, const Plan& plan) {
  Prepared out;
  plan_folders(tree, plan.moves, out.change);
  out.change.moves = plan.moves.files();
  out.journal.made = out.change.make;
  out.journal.removed = out.change.remove;
  std::vector<RelPath> edited;
  for (const auto& [path, edits] : plan.edits) {
    if (!edits.empty()) edited.push_back(path);
  }
  std::sort(edited.begin(), edited.end());
  for (const RelPath& path : edited) {
    const FileEdits& edits = plan.edits.at(path);
    auto bytes = disk.read(tree.absolute(path));
    if (!bytes) return bytes.error();
    auto expected = plan.hashes.find(path);
    if (expected == plan.hashes.end() || content_hash(*bytes) != expected->second)
      return stale(path, "was changed while the move was planned");
    auto mode = disk.mode(tree.absolute(path));
    if (!mode) return mode.error();
    JournalEdit edit{path, plan.moves.map_file(path), *mode, content_hash(*bytes), ""};
    NewContent content{edit.to, edits.apply(*bytes), *mode};
    edit.hash_after = content_hash(content.bytes);
    out.change.contents.push_back(std::move(content));
    out.journal.edits.push_back(std::move(edit));
    out.originals.push_back(std::move(*bytes));
  }
  std::set<RelPath> is_edited(edited.begin(), edited.end());
  for (const Move& move : plan.moves.files()) {
    JournalMove item{move, ""};
    if (!is_edited.contains(move.from)) {
      auto bytes = disk.read(tree.absolute(move.from));
      if (!bytes) return bytes.error();
      if (bytes->size() != tree.find(move.from)->size)
        return stale(move.from, "was changed while the move was planned");
      item.hash = content_hash(*bytes);
    }
    out.journal.moves.push_back(std::move(item));
  }
  return out;
}

bool only_holds(const std::string& root, const RelPath& folder, const std::set<std::string>& leaving) {
  std::error_code error;
  for (const auto& item : std::filesystem::directory_iterator(root + "/" + folder.str(), error)) {
    if (!leaving.contains((folder / item.path().filename().string()).str())) return false;
  }
  return !error;
}

// The change that takes a journal's move back.
Result<Change> reversed(FileSystem& disk, const std::string& root, const StoredJournal& stored) {
  const Journal& journal = stored.journal;
  Change change;
  change.make.assign(journal.removed.rbegin(), journal.removed.rend());
  std::erase_if(change.make, [&](const RelPath& folder) { return disk.exists(root + "/" + folder.str()); });
  for (const JournalMove& item : journal.moves) change.moves.push_back({item.move.to, item.move.from});
  for (std::size_t i = 0; i < journal.edits.size(); ++i) {
    auto bytes = disk.read(fmt::format("{}/original-{}", stored.folder, i));
    if (!bytes) return bytes.error();
    if (content_hash(*bytes) != journal.edits[i].hash_before) {
      return Error{Failure::io, stored.folder, "holds a damaged original",
                   "restore the file from version control"};
    }
    change.contents.push_back({journal.edits[i].from, std::move(*bytes), journal.edits[i].mode});
  }
  // A folder that the move made goes only if nothing else was put into it.
  std::set<std::string> leaving;
  for (const JournalMove& item : journal.moves) leaving.insert(item.move.to.str());
  for (auto folder = journal.made.rbegin(); folder != journal.made.rend(); ++folder) {
    if (only_holds(root, *folder, leaving)) {
      change.remove.push_back(*folder);
      leaving.insert(folder->str());
    }
  }
  return change;
}

Status apply_reversed(FileSystem& disk, const std::string& root, const std::string& state,
                      const StoredJournal& stored) {
  auto change = reversed(disk, root, stored);
  if (!change) return change.error();
  auto scratch = make_scratch(disk, root, state);
  if (!scratch) return scratch.error();
  Status applied = apply_change(disk, root, *scratch, *change);
  (void)disk.remove_folder(*scratch);
  return applied;
}

}  // namespace

Result<StoredJournal> carry_out(FileSystem& disk, const DiskTree& tree, const Plan& plan,
                                const std::string& state, const std::string& command) {
  if (Status ok = make_state(disk, state); !ok) return ok.error();
  Lock lock(disk, state + "/lock");
  if (Status ok = lock.take(); !ok) return ok.error();
  auto prepared = prepare(disk, tree, plan);
  if (!prepared) return prepared.error();
  prepared->journal.command = command;
  prepared->journal.time = std::time(nullptr);
  auto scratch = make_scratch(disk, tree.root(), state);
  if (!scratch) return scratch.error();
  auto stored = write_journal(disk, state, prepared->journal, prepared->originals);
  if (!stored) {
    (void)disk.remove_folder(*scratch);
    return stored;
  }
  Status applied = apply_change(disk, tree.root(), *scratch, prepared->change);
  (void)disk.remove_folder(*scratch);
  if (!applied) {
    if (applied.error().message.find("taking it back failed") == std::string::npos) discard(*stored);
    return applied.error();
  }
  for (const JournalEdit& edit : prepared->journal.edits) {
    auto bytes = disk.read(tree.absolute(edit.to));
    if (!bytes || content_hash(*bytes) != edit.hash_after) {
      return Error{Failure::io, edit.to.str(), "does not hold what was written", "run yellow-compass undo"};
    }
  }
  if (Status ok = mark(disk, *stored, "done"); !ok) {
    if (apply_reversed(disk, tree.root(), state, *stored)) discard(*stored);
    return ok.error();
  }
  stored->done = true;
  return stored;
}

namespace {

// What stands now must be what the move left, or undoing would destroy later work.
Status check_untouched(FileSystem& disk, const std::string& root, const Journal& journal) {
  std::set<RelPath> leaving;
  for (const JournalMove& item : journal.moves) leaving.insert(item.move.to);
  auto check = [&](const RelPath& path, const std::string& hash) -> Status {
    auto bytes = disk.read(root + "/" + path.str());
    if (!bytes)
      return Error{Failure::unsettled, path.str(), "is not where the move put it", "put it back, then undo"};
    if (content_hash(*bytes) == hash) return {};
    return Error{Failure::unsettled, path.str(),
                 "was changed after the move, and undo would lose that change",
                 "save or revert that change, then undo"};
  };
  for (const JournalEdit& item : journal.edits) {
    if (Status ok = check(item.to, item.hash_after); !ok) return ok;
  }
  for (const JournalMove& item : journal.moves) {
    if (!item.hash.empty()) {
      if (Status ok = check(item.move.to, item.hash); !ok) return ok;
    }
    if (disk.exists(root + "/" + item.move.from.str()) && !leaving.contains(item.move.from)) {
      return Error{Failure::unsettled, item.move.from.str(),
                   "was made after the move and stands where a file must return", "move it away, then undo"};
    }
  }
  return {};
}

}  // namespace

Result<Undone> undo_latest(FileSystem& disk, const std::string& root, const std::string& state) {
  auto journals = read_journals(disk, state);
  if (!journals) return journals.error();
  auto standing = std::find_if(journals->rbegin(), journals->rend(),
                               [](const StoredJournal& item) { return item.done && !item.undone; });
  if (standing == journals->rend()) return Error{Failure::usage, "", "there is no move to undo", ""};
  Lock lock(disk, state + "/lock");
  if (Status ok = lock.take(); !ok) return ok.error();
  const Journal& journal = standing->journal;
  if (Status ok = check_untouched(disk, root, journal); !ok) return ok.error();
  if (Status ok = apply_reversed(disk, root, state, *standing); !ok) return ok.error();
  if (Status ok = mark(disk, *standing, "undone"); !ok) return ok.error();
  return Undone{*standing};
}

}  // namespace yc
