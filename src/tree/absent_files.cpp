#include "tree/absent_files.h"

#include <git2.h>

#include <cstring>

#include "tree/git_library.h"

namespace yc {

namespace {

bool is_left_out(const git_index_entry& entry) {
  bool is_content = entry.mode == GIT_FILEMODE_BLOB || entry.mode == GIT_FILEMODE_BLOB_EXECUTABLE ||
                    entry.mode == GIT_FILEMODE_LINK;
  return is_content && (entry.flags_extended & GIT_INDEX_ENTRY_SKIP_WORKTREE) != 0;
}

}  // namespace

std::vector<AbsentFile> absent_files(git_index* index, const std::string& prefix) {
  std::vector<AbsentFile> out;
  std::size_t at = 0, count = git_index_entrycount(index);
  if (!prefix.empty() && git_index_find_prefix(&at, index, prefix.c_str()) != 0) return out;
  for (; at < count; ++at) {
    const git_index_entry* entry = git_index_get_byindex(index, at);
    std::string_view path = entry->path;
    if (!path.starts_with(prefix)) break;
    if (!is_left_out(*entry)) continue;
    AbsentFile one;
    one.path = RelPath::from_normal(std::string(path.substr(prefix.size())));
    if (entry->mode == GIT_FILEMODE_LINK) one.kind = EntryKind::link;
    std::memcpy(&one.mark, entry->id.id, sizeof one.mark);
    out.push_back(std::move(one));
  }
  return out;
}

struct AbsentContents::Impl {
  std::unique_ptr<Repository> repository;
  git_index* index = nullptr;
  git_odb* objects = nullptr;
  std::string index_file;

  const git_index_entry* find(const RelPath& path) const {
    std::string full = repository->prefix() + path.str();
    return index ? git_index_get_bypath(index, full.c_str(), 0) : nullptr;
  }
};

AbsentContents::AbsentContents(const std::string& root) : impl_(std::make_unique<Impl>()) {
  impl_->repository = Repository::around(root);
  if (!impl_->repository) return;
  git_repository* handle = impl_->repository->handle();
  if (git_repository_index(&impl_->index, handle) != 0) impl_->index = nullptr;
  if (git_repository_odb(&impl_->objects, handle) != 0) impl_->objects = nullptr;
  impl_->index_file = impl_->repository->own() + "/index";
}

AbsentContents::~AbsentContents() {
  git_odb_free(impl_->objects);
  git_index_free(impl_->index);
}

Result<std::string> AbsentContents::read(const RelPath& path, std::uint64_t limit) const {
  auto failure = [&](const char* what) {
    return Error{Failure::io, path.str(), what, "check it out (git sparse-checkout add FOLDER)"};
  };
  const git_index_entry* entry = impl_->find(path);
  // A partial clone lacks what it did not need so far. To look for it anew each time would take long.
  bool is_here = entry && impl_->objects &&
                 git_odb_exists_ext(impl_->objects, &entry->id, GIT_ODB_LOOKUP_NO_REFRESH) != 0;
  git_odb_object* object = nullptr;
  if (!is_here || git_odb_read(&object, impl_->objects, &entry->id) != 0)
    return failure("is not checked out, and what it holds is not in the repository");
  std::size_t size = git_odb_object_size(object);
  Result<std::string> out = failure("is not checked out, and too long to be read");
  if (size <= limit) out = std::string(static_cast<const char*>(git_odb_object_data(object)), size);
  git_odb_object_free(object);
  return out;
}

bool AbsentContents::is_executable(const RelPath& path) const {
  const git_index_entry* entry = impl_->find(path);
  return entry && entry->mode == GIT_FILEMODE_BLOB_EXECUTABLE;
}

const std::string& AbsentContents::index_file() const {
  return impl_->index_file;
}

}  // namespace yc
