#include "carry/tracked_files.h"

#include <git2.h>

#include <algorithm>
#include <filesystem>
#include <vector>

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

Error failure(const std::string& path) {
  const git_error* error = git_error_last();
  std::string message = error && error->message ? error->message : "unknown failure";
  return Error{Failure::io, path, "cannot be changed: " + message, ""};
}

Error held(const std::string& lock) {
  return Error{Failure::unsettled, lock, "another program holds the index",
               "wait for it, or remove the file if none is running"};
}

// An entry and the path it is to have.
struct Renamed {
  git_index_entry entry;
  std::string old_path, new_path;
};

}  // namespace

TrackedFiles::TrackedFiles(FileSystem& disk, const std::string& root) : disk_(disk), root_(root) {
  if (!root.empty()) repository_ = Repository::around(root);
}

TrackedFiles::~TrackedFiles() = default;

Status TrackedFiles::note(Journal& journal) {
  if (!repository_) return {};
  Index index = Index::of(*repository_);
  if (!index.get()) return {};
  bool any = false;
  for (JournalItem& item : journal.items) {
    std::string path = repository_->prefix() + item.from.str();
    for (int stage = 1; stage <= 3; ++stage) {
      if (!index.find(path, stage)) continue;
      return Error{Failure::unsettled, item.from.str(), "is in conflict: a merge of it is not finished",
                   "finish or abort the merge, then move"};
    }
    const git_index_entry* entry = index.find(path);
    if (!entry || !item.moves()) continue;
    item.blob = blob_of(*entry);
    any = true;
  }
  const std::string& prefix = repository_->prefix();
  for (std::size_t i = 0; i < git_index_entrycount(index.get()); ++i) {
    const git_index_entry* entry = git_index_get_byindex(index.get(), i);
    std::string name = entry->path;
    if (entry->mode != GIT_FILEMODE_COMMIT || !name.starts_with(prefix)) continue;
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
    const git_index_entry* entry = index.find(repository_->prefix() + nested.move.from.str());
    if (!entry) continue;
    nested.blob = blob_of(*entry);
    any = true;
  }
  std::string lock = repository_->own() + "/index.lock";
  if (any && disk_.exists(lock)) return held(lock);
  return {};
}

// Moves the entries in a draft of the index. False if there is nothing to do.
Result<bool> TrackedFiles::rewrite(const std::string& draft, const Journal& journal, bool is_forward) const {
  Index index = Index::at(draft);
  if (!index.get()) return failure(draft);
  std::vector<Renamed> renamed;
  auto take = [&](const RelPath& from, const RelPath& to, const std::string& blob) {
    if (blob.empty()) return;
    std::string old_path = repository_->prefix() + (is_forward ? from : to).str();
    std::string new_path = repository_->prefix() + (is_forward ? to : from).str();
    const git_index_entry* there = index.find(new_path);
    if (there && blob_of(*there) == blob) return;  // done already
    if (const git_index_entry* entry = index.find(old_path)) renamed.push_back({*entry, old_path, new_path});
  };
  for (const JournalItem& item : journal.items) take(item.from, item.to, item.blob);
  for (const JournalNested& nested : journal.nested) take(nested.move.from, nested.move.to, nested.blob);
  if (renamed.empty()) return false;
  for (const Renamed& item : renamed) {
    if (git_index_remove(index.get(), item.old_path.c_str(), 0) != 0) return failure(draft);
  }
  for (Renamed& item : renamed) {
    item.entry.path = item.new_path.c_str();
    if (git_index_add(index.get(), &item.entry) != 0) return failure(draft);
  }
  if (git_index_write(index.get()) != 0) return failure(draft);
  return true;
}

// The draft becomes the index by way of git's own lock file. That is made whole in one step, as one more name
// of the draft, so that a crash leaves no lock that could be anybody's: see move().
Status TrackedFiles::put_in_place(const std::string& draft) {
  std::string index = repository_->own() + "/index", lock = index + ".lock";
  if (disk_.exists(lock)) return held(lock);
  if (Status ok = disk_.sync_file(draft); !ok) return ok;
  if (Status ok = disk_.link(draft, lock); !ok) return ok;
  if (Status ok = disk_.rename(lock, index); !ok) {
    (void)disk_.remove_file(lock);
    return ok;
  }
  return disk_.sync_folder(repository_->own());
}

// A nested repository that is told where its working tree is must be told the new place.
Status TrackedFiles::set_worktrees(const Journal& journal, bool is_forward) const {
  for (const JournalNested& nested : journal.nested) {
    std::string name = nested.git_dir + "/config";
    git_config* config = nullptr;
    use_git_library();
    if (git_config_open_ondisk(&config, name.c_str()) != 0) return failure(name);
    git_buf known = {};
    int code = git_config_get_string_buf(&known, config, "core.worktree");
    bool is_relative = code == 0 && known.ptr && known.ptr[0] != '/';
    const RelPath& folder = is_forward ? nested.move.to : nested.move.from;
    std::string fresh =
        std::filesystem::path(root_ + "/" + folder.str()).lexically_relative(nested.git_dir).string();
    if (is_relative && fresh != known.ptr)
      code = git_config_set_string(config, "core.worktree", fresh.c_str());
    git_buf_dispose(&known);
    git_config_free(config);
    if (code != 0 && code != GIT_ENOTFOUND) return failure(name);
  }
  return {};
}

Status TrackedFiles::move(const StoredJournal& stored, bool is_forward) {
  if (!repository_) return {};
  if (Status ok = set_worktrees(stored.journal, is_forward); !ok) return ok;
  std::string index = repository_->own() + "/index", lock = index + ".lock";
  std::string draft = stored.folder + "/index";
  if (!disk_.exists(index)) return {};
  if (disk_.exists(draft)) {
    // A crash: the lock is ours if it is the draft by another name.
    auto mine = disk_.info(draft), other = disk_.info(lock);
    if (mine && other && mine->inode == other->inode && mine->device == other->device) {
      if (Status ok = disk_.remove_file(lock); !ok) return ok;
    }
    if (Status ok = disk_.remove_file(draft); !ok) return ok;
  }
  // The library's own lock of a draft that it was writing.
  if (disk_.exists(draft + ".lock")) {
    if (Status ok = disk_.remove_file(draft + ".lock"); !ok) return ok;
  }
  bool any = false;
  for (const JournalItem& item : stored.journal.items) any = any || !item.blob.empty();
  for (const JournalNested& nested : stored.journal.nested) any = any || !nested.blob.empty();
  if (!any) return {};
  auto bytes = disk_.read(index);
  if (!bytes) return bytes.error();
  if (Status ok = disk_.write_like(draft, *bytes, index); !ok) return ok;
  auto changed = rewrite(draft, stored.journal, is_forward);
  Status done = changed ? (*changed ? put_in_place(draft) : Status()) : Status(changed.error());
  Status removed = disk_.exists(draft) ? disk_.remove_file(draft) : Status();
  return done ? removed : done;
}

}  // namespace yc
