#include "tree/git_library.h"

#include <git2.h>

#include <filesystem>

namespace yc {

namespace {

namespace fs = std::filesystem;

// A look at the folders upwards; where none has a repository, libgit2 need not even be started.
bool may_be_in_repository(const std::string& folder) {
  std::error_code error;
  for (fs::path up = folder;; up = up.parent_path()) {
    if (fs::exists(up / ".git", error)) return true;
    if (up == up.parent_path()) return false;
  }
}

std::string trimmed(const char* text) {
  std::error_code ignored;
  std::string path = text ? fs::weakly_canonical(text, ignored).string() : "";
  while (path.size() > 1 && path.back() == '/') path.pop_back();
  return path;
}

}  // namespace

void use_git_library() {
  static const int started = git_libgit2_init();
  (void)started;
}

std::unique_ptr<Repository> Repository::around(const std::string& folder) {
  if (!may_be_in_repository(folder)) return nullptr;
  use_git_library();
  git_repository* handle = nullptr;
  if (git_repository_open_ext(&handle, folder.c_str(), 0, nullptr) != 0) return nullptr;
  std::unique_ptr<Repository> out(new Repository(handle));
  if (!git_repository_workdir(handle)) return nullptr;
  out->top_ = trimmed(git_repository_workdir(handle));
  out->own_ = trimmed(git_repository_path(handle));
  std::string full = trimmed(folder.c_str());
  if (full.size() > out->top_.size())
    out->prefix_ = full.substr(out->top_.size() + (out->top_ == "/" ? 0 : 1)) + "/";
  int ignored = 0;
  bool is_part = out->prefix_.empty() ||
                 git_ignore_path_is_ignored(&ignored, handle, out->prefix_.c_str()) != 0 || ignored == 0;
  return is_part ? std::move(out) : nullptr;
}

Repository::~Repository() {
  git_repository_free(handle_);
}

}  // namespace yc
