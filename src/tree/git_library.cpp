#include "tree/git_library.h"

#include <fmt/format.h>
#include <git2.h>
#include <sys/stat.h>
#include <unistd.h>

#include <filesystem>
#include <optional>

#include "tree/beneath.h"
#include "tree/repository_files.h"

namespace yc {

namespace {

namespace fs = std::filesystem;

// The nearest folder upwards with a `.git` in it; where none has one, libgit2 need not even be started.
std::optional<std::string> nearest_with_git(const std::string& folder) {
  for (fs::path up = folder;; up = up.parent_path()) {
    struct stat info {};
    if (lstat((up / ".git").c_str(), &info) == 0) return up.string();
    if (up == up.parent_path()) return std::nullopt;
  }
}

std::string real_folder(const char* text) {
  std::error_code ignored;
  std::string path = text ? fs::weakly_canonical(text, ignored).string() : "";
  while (path.size() > 1 && path.back() == '/') path.pop_back();
  return path;
}

}  // namespace

void use_git_library() {
  static const int started = [] {
    int count = git_libgit2_init();
    // What these change is nothing that we ask for: a working tree's own settings, which are looked through
    // before the library may read any, and objects that a partial clone lacks.
    const char* extensions[] = {"worktreeconfig", "partialclone"};
    git_libgit2_opts(GIT_OPT_SET_EXTENSIONS, extensions, std::size(extensions));
    return count;
  }();
  (void)started;
}

std::string git_library_says() {
  const git_error* error = git_error_last();
  return error && error->message ? error->message : "unknown failure";
}

Repository::Found Repository::look_for(const std::string& folder) {
  Found out;
  auto top = nearest_with_git(real_folder(folder.c_str()));
  if (!top) return out;
  out.top = *top;
  // Before the library is asked, which reads whatever stands at the names that it knows.
  out.problem = repository_files_problem(*top, real_folder(folder.c_str()));
  if (!out.problem.empty()) return out;
  use_git_library();
  git_repository* handle = nullptr;
  int code = git_repository_open_ext(&handle, folder.c_str(), 0, nullptr);
  if (code != 0) {
    struct stat info {};
    bool is_foreign = stat((*top + "/.git").c_str(), &info) == 0 && info.st_uid != geteuid();
    std::error_code error;
    // A folder of that name that holds nothing of a repository is none. What else is not found may be a
    // setting, by which the library would have trusted another owner.
    bool is_none = code == GIT_ENOTFOUND && fs::is_directory(*top + "/.git", error) &&
                   !fs::exists(*top + "/.git/HEAD", error);
    if (is_none) return {};
    out.problem = is_foreign ? "it is owned by another user (git config --global --add safe.directory " +
                                   *top + " trusts it)"
                             : git_library_says();
    return out;
  }
  std::unique_ptr<Repository> found(new Repository(handle));
  if (!git_repository_workdir(handle)) return {};
  found->top_ = real_folder(git_repository_workdir(handle));
  found->own_ = real_folder(git_repository_path(handle));
  found->common_ = real_folder(git_repository_commondir(handle));
  std::string full = real_folder(folder.c_str());
  bool is_within = full == found->top_ || full.starts_with(found->top_ == "/" ? "/" : found->top_ + "/");
  if (!is_within) {
    out.problem = "its working tree is " + found->top_ + ", as its configuration says";
    return out;
  }
  if (full.size() > found->top_.size())
    found->prefix_ = full.substr(found->top_.size() + (found->top_ == "/" ? 0 : 1)) + "/";
  out.problem = configured_files_problem(handle);
  if (!out.problem.empty()) return out;
  int ignored = 0;
  bool is_part = found->prefix_.empty() ||
                 git_ignore_path_is_ignored(&ignored, handle, found->prefix_.c_str()) != 0 || ignored == 0;
  if (!is_part) return {};
  out.top = found->top_;
  out.repository = std::move(found);
  return out;
}

std::unique_ptr<Repository> Repository::around(const std::string& folder) {
  return look_for(folder).repository;
}

Repository::~Repository() {
  git_repository_free(handle_);
}

bool is_in_repository_data(const std::string& folder) {
  std::error_code error;
  auto is_there = [&](const fs::path& path) { return fs::exists(path, error); };
  for (fs::path up = folder; up != up.parent_path(); up = up.parent_path()) {
    if (up.filename() == ".git") return true;
    // A bare repository, the data of a submodule, or those of a further working tree.
    bool is_whole = is_there(up / "HEAD") && is_there(up / "objects") && is_there(up / "refs");
    bool is_further = is_there(up / "HEAD") && is_there(up / "commondir") && is_there(up / "gitdir");
    if ((is_whole && !is_there(up / ".git")) || is_further) return true;
  }
  return false;
}

bool is_tracked(const std::string& root, const std::string& folder) {
  if (!folder.starts_with(root + "/")) return false;
  auto repository = Repository::around(root);
  if (!repository || folder.starts_with(repository->own() + "/")) return false;
  std::string path = repository->prefix() + folder.substr(root.size() + 1);
  git_index* index = nullptr;
  bool out = false;
  if (git_repository_index(&index, repository->handle()) == 0) {
    std::size_t at = 0;
    out = git_index_find_prefix(&at, index, (path + "/").c_str()) == 0 ||
          git_index_get_bypath(index, path.c_str(), 0) != nullptr;
  }
  git_index_free(index);
  return out;
}

}  // namespace yc
