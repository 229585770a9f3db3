#include "tree/ignore_rules.h"

#include <git2.h>

#include <filesystem>

#include "tree/git_library.h"

namespace yc {

struct IgnoreRules::Impl {
  git_repository* repository = nullptr;
  git_index* index = nullptr;
  std::string prefix;  // of our root below the working tree, with a trailing '/'
};

IgnoreRules::IgnoreRules(const std::string& root) : impl_(std::make_unique<Impl>()) {
  if (!may_be_in_repository(root)) return;
  use_git_library();
  if (git_repository_open_ext(&impl_->repository, root.c_str(), 0, nullptr) != 0) {
    impl_->repository = nullptr;
    return;
  }
  const char* workdir = git_repository_workdir(impl_->repository);
  if (!workdir) return;
  std::error_code ignored;
  std::string top = std::filesystem::weakly_canonical(workdir, ignored).string();
  if (!top.empty() && top.back() != '/') top += '/';
  std::string full = std::filesystem::weakly_canonical(root, ignored).string() + "/";
  if (full.size() > top.size() && full.compare(0, top.size(), top) == 0) impl_->prefix = full.substr(top.size());
  if (git_repository_index(&impl_->index, impl_->repository) != 0) impl_->index = nullptr;
}

IgnoreRules::~IgnoreRules() {
  git_index_free(impl_->index);
  git_repository_free(impl_->repository);
}

bool IgnoreRules::ignores(const RelPath& path, bool is_folder) const {
  if (!impl_->repository) return false;
  std::string full = impl_->prefix + path.str() + (is_folder ? "/" : "");
  int result = 0;
  if (git_ignore_path_is_ignored(&result, impl_->repository, full.c_str()) != 0 || result == 0) return false;
  if (!impl_->index) return true;
  if (is_folder) {
    std::size_t at = 0;
    return git_index_find_prefix(&at, impl_->index, full.c_str()) != 0;
  }
  return git_index_get_bypath(impl_->index, full.c_str(), 0) == nullptr;
}

}  // namespace yc
