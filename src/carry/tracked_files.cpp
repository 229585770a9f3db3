#include "carry/tracked_files.h"

#include <git2.h>

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <vector>

#include "carry/workshop.h"
#include "tree/git_library.h"

namespace yc {

namespace {

class Index {
 public:
  static Index of(const Repository& repository) {
    Index out;
    if (git_repository_index(&out.index_, repository.handle()) != 0) out.index_ = nullptr;
    return out;
  }
  static Index at(const std::string& path) {
    Index out;
    if (git_index_open(&out.index_, path.c_str()) != 0) out.index_ = nullptr;
    return out;
  }
  ~Index() { git_index_free(index_); }
  Index(Index&& other) noexcept : index_(other.index_) { other.index_ = nullptr; }
  Index(const Index&) = delete;
  Index& operator=(const Index&) = delete;
  Index& operator=(Index&&) = delete;

  git_index* get() const { return index_; }
  const git_index_entry* find(const std::string& path, int stage = 0) const {
    return git_index_get_bypath(index_, path.c_str(), stage);
  }

 private:
  Index() = default;
  git_index* index_ = nullptr;
};

std::string blob_of(const git_index_entry& entry) {
  char text[GIT_OID_HEXSZ + 1];
  return git_oid_tostr(text, sizeof text, &entry.id);
}

Error index_failure(const std::string& path) {
  return Error{Failure::io, path, "cannot be changed: " + git_library_says(), ""};
}

Error held(const std::string& lock) {
  return Error{Failure::unsettled, lock, "another program holds the index",
               "wait for it, or remove the file if none is running"};
}

Error unusable(const std::string& place, const std::string& why) {
  // As the library calls an index that names folders only.
  bool is_sparse = why.find("'sdir'") != std::string::npos;
  std::string mend =
      is_sparse ? "write the index in full (git sparse-checkout reapply --no-sparse-index)" : "mend that";
  return Error{Failure::unsettled, place, "cannot be kept in step with the move: " + why,
               mend + ", or leave version control's index as it is with --no-stage"};
}

// An entry and the path it is to have; none if it is to go.
struct Renamed {
  git_index_entry entry;
  std::string old_path, new_path;
};

bool is_repository(const git_index_entry& entry) {
  return entry.mode == GIT_FILEMODE_COMMIT;
}

// Whether a path lies in a repository of its own, by the index or because the folder holds a `.git`.
bool is_in_nested(FileSystem& disk, const std::string& root, const std::string& prefix, const Index& index,
                  const RelPath& path) {
  for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
    const git_index_entry* entry = index.find(prefix + up.str());
    if ((entry && is_repository(*entry)) || disk.exists(root + "/" + up.str() + "/.git")) return true;
  }
  return false;
}

}  // namespace

TrackedFiles::TrackedFiles(FileSystem& disk, const StatePlace& place) : disk_(disk), place_(place) {
  if (place.root.empty()) return;
  auto found = Repository::look_for(place.root);
  repository_ = std::move(found.repository);
  problem_ = std::move(found.problem);
}

TrackedFiles::~TrackedFiles() = default;

bool TrackedFiles::holds(const std::string& folder) const {
  return repository_ && folder.starts_with(repository_->common() + "/");
}

Status TrackedFiles::note(Journal& journal) {
  bool any_moves =
      !journal.nested.empty() || std::any_of(journal.items.begin(), journal.items.end(),
                                             [](const JournalItem& item) { return item.moves(); });
  if (!problem_.empty() && any_moves) return unusable("the repository here", problem_);
  if (!repository_) return {};
  std::string file = repository_->own() + "/index";
  if (auto info = disk_.info(file); info && (info->kind != EntryKind::file || info->is_special) && any_moves)
    return unusable(file, "it is a link or no plain file");
  Index index = Index::of(*repository_);
  if (!index.get()) return any_moves ? Status(unusable(file, git_library_says())) : Status();
  const std::string& prefix = repository_->prefix();
  bool any = false;
  for (JournalItem& item : journal.items) {
    std::string path = prefix + item.from.str();
    for (int stage = 1; stage <= 3; ++stage) {
      if (!index.find(path, stage)) continue;
      return Error{Failure::unsettled, item.from.str(), "is in conflict: a merge of it is not finished",
                   "finish or abort the merge, then move"};
    }
    const git_index_entry* entry = index.find(path);
    if (!entry || !item.moves()) continue;
    item.blob = blob_of(*entry);
    item.unlisted = is_in_nested(disk_, place_.root, prefix, index, item.to);
    any = true;
  }
  for (std::size_t i = 0; i < git_index_entrycount(index.get()); ++i) {
    const git_index_entry* entry = git_index_get_byindex(index.get(), i);
    std::string name = entry->path;
    if (!is_repository(*entry) || !name.starts_with(prefix)) continue;
    RelPath path = RelPath::from_normal(name.substr(prefix.size()));
    bool moves = std::any_of(journal.requested.begin(), journal.requested.end(),
                             [&](const Move& move) { return path.is_within(move.from); });
    bool is_there = std::any_of(journal.nested.begin(), journal.nested.end(),
                                [&](const JournalNested& nested) { return nested.move.from == path; });
    if (moves && !is_there)
      return Error{Failure::unsettled, path.str(), "is a submodule that is not checked out",
                   "check it out (git submodule update --init), then move"};
  }
  for (JournalNested& nested : journal.nested) {
    const git_index_entry* entry = index.find(prefix + nested.move.from.str());
    if (!entry) continue;
    nested.blob = blob_of(*entry);
    any = true;
  }
  if (any && disk_.exists(file + ".lock")) return held(file + ".lock");
  return {};
}

// What the bytes of an index are once the entries have moved; the same if there is nothing to do.
Result<std::string> TrackedFiles::rewritten(const std::string& bytes, const StoredJournal& stored,
                                            bool is_forward) const {
  const Journal& journal = stored.journal;
  auto workshop = Workshop::open(place_.user);
  if (!workshop) return workshop.error();
  auto copy = workshop->put("index", bytes);
  if (!copy) return copy.error();
  Index index = Index::at(*copy);
  if (!index.get()) return index_failure(repository_->own() + "/index");
  const std::string& prefix = repository_->prefix();
  std::vector<Renamed> renamed;
  auto take = [&](const RelPath& from, const RelPath& to, const std::string& blob) {
    if (blob.empty()) return;
    std::string old_path = prefix + (is_forward ? from : to).str();
    std::string new_path = prefix + (is_forward ? to : from).str();
    const git_index_entry* there = index.find(new_path);
    if (there && blob_of(*there) == blob) return;  // done already
    if (const git_index_entry* entry = index.find(old_path)) renamed.push_back({*entry, old_path, new_path});
  };
  // What goes into a repository of its own leaves the index, and has to be put into it anew on the way back.
  auto take_unlisted = [&](const JournalItem& item) {
    std::string path = prefix + item.from.str();
    const git_index_entry* entry = index.find(path);
    if (is_forward) {
      if (entry && blob_of(*entry) == item.blob) renamed.push_back({*entry, path, ""});
      return;
    }
    if (entry) return;
    git_index_entry fresh{};
    auto info = disk_.info(place_.root + "/" + item.from.str());
    fresh.mode = item.kind == EntryKind::link       ? GIT_FILEMODE_LINK
                 : info && (info->mode & 0100) != 0 ? GIT_FILEMODE_BLOB_EXECUTABLE
                                                    : GIT_FILEMODE_BLOB;
    if (git_oid_fromstr(&fresh.id, item.blob.c_str()) == 0) renamed.push_back({fresh, "", path});
  };
  for (const JournalItem& item : journal.items) {
    if (item.unlisted)
      take_unlisted(item);
    else
      take(item.from, item.to, item.blob);
  }
  for (const JournalNested& nested : journal.nested) take(nested.move.from, nested.move.to, nested.blob);
  if (renamed.empty()) return bytes;
  for (const Renamed& item : renamed) {
    if (!item.old_path.empty() && git_index_remove(index.get(), item.old_path.c_str(), 0) != 0)
      return index_failure(item.old_path);
  }
  for (Renamed& item : renamed) {
    if (item.new_path.empty()) continue;
    item.entry.path = item.new_path.c_str();
    if (git_index_add(index.get(), &item.entry) != 0) return index_failure(item.new_path);
  }
  if (git_index_write(index.get()) != 0) return index_failure(repository_->own() + "/index");
  return workshop->get("index");
}

// The draft becomes version control's file by way of git's own lock file. That is made whole in one step, as
// one more name of the draft, so that a crash leaves no lock that could be anybody's: see replace().
Status TrackedFiles::put_in_place(const Draft& change) {
  std::string lock = change.file + ".lock";
  if (disk_.exists(lock)) return held(lock);
  if (Status ok = disk_.sync_file(change.draft); !ok) return ok;
  if (Status ok = disk_.link(change.draft, lock); !ok) return ok;
  // With the lock held nobody else writes; what was written before it is not to be lost.
  auto now = disk_.read(change.file);
  if (!now || *now != change.before) {
    (void)disk_.remove_file(lock);
    return Error{Failure::unsettled, change.file, "was changed meanwhile by another program", "try again"};
  }
  if (Status ok = disk_.rename(lock, change.file); !ok) {
    (void)disk_.remove_file(lock);
    return ok;
  }
  return disk_.sync_folder(change.file.substr(0, change.file.rfind('/')));
}

Status TrackedFiles::replace(const Draft& change) {
  std::string lock = change.file + ".lock";
  if (disk_.exists(change.draft)) {
    // A crash: the lock is ours if it is the draft by another name.
    auto mine = disk_.info(change.draft), other = disk_.info(lock);
    if (mine && other && mine->inode == other->inode && mine->device == other->device) {
      if (Status ok = disk_.remove_file(lock); !ok) return ok;
    }
    if (Status ok = disk_.remove_file(change.draft); !ok) return ok;
  }
  if (change.after == change.before) return {};
  if (Status ok = disk_.write_like(change.draft, change.after, change.file); !ok) return ok;
  Status done = put_in_place(change);
  Status removed = disk_.exists(change.draft) ? disk_.remove_file(change.draft) : Status();
  return done ? removed : done;
}

// A nested repository that is told where its working tree is must be told the new place.
Status TrackedFiles::set_worktrees(const StoredJournal& stored, bool is_forward) {
  for (const JournalNested& nested : stored.journal.nested) {
    if (!holds(nested.git_dir)) continue;
    std::string name = nested.git_dir + "/config";
    auto bytes = disk_.read(name);
    if (!bytes) return bytes.error();
    auto workshop = Workshop::open(place_.user);
    if (!workshop) return workshop.error();
    auto copy = workshop->put("config", *bytes);
    if (!copy) return copy.error();
    git_config* config = nullptr;
    use_git_library();
    if (git_config_open_ondisk(&config, copy->c_str()) != 0) return index_failure(name);
    git_buf known = {};
    int code = git_config_get_string_buf(&known, config, "core.worktree");
    bool is_relative = code == 0 && known.ptr && known.ptr[0] != '/';
    const RelPath& folder = is_forward ? nested.move.to : nested.move.from;
    std::string fresh =
        std::filesystem::path(place_.root + "/" + folder.str()).lexically_relative(nested.git_dir).string();
    bool changes = is_relative && fresh != known.ptr;
    if (changes) code = git_config_set_string(config, "core.worktree", fresh.c_str());
    git_buf_dispose(&known);
    git_config_free(config);
    if (code != 0 && code != GIT_ENOTFOUND) return index_failure(name);
    auto after = changes ? workshop->get("config") : bytes;
    if (!after) return after.error();
    if (Status ok = replace({name, stored.folder + "/config", *bytes, *after}); !ok) return ok;
  }
  return {};
}

Status TrackedFiles::move(const StoredJournal& stored, bool is_forward) {
  if (!repository_) return {};
  if (Status ok = set_worktrees(stored, is_forward); !ok) return ok;
  std::string index = repository_->own() + "/index";
  if (!disk_.exists(index)) return {};
  bool any = false;
  for (const JournalItem& item : stored.journal.items) any = any || !item.blob.empty();
  for (const JournalNested& nested : stored.journal.nested) any = any || !nested.blob.empty();
  if (!any) return {};
  // Another program may write the index at the same time.
  constexpr int kTries = 3;
  for (int tries = 1;; ++tries) {
    auto bytes = disk_.read(index);
    if (!bytes) return bytes.error();
    auto fresh = rewritten(*bytes, stored, is_forward);
    if (!fresh) return fresh.error();
    Status done = replace({index, stored.folder + "/index", *bytes, *fresh});
    if (done || tries == kTries || done.error().failure != Failure::unsettled || done.error().place != index)
      return done;
  }
}

}  // namespace yc
