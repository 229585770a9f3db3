#include "tree/ignore_rules.h"

#include <git2.h>

#include "tree/git_library.h"

namespace yc {

struct IgnoreRules::Impl {
  std::unique_ptr<Repository> repository;
  git_index* index = nullptr;
};

IgnoreRules::IgnoreRules(const std::string& root) : impl_(std::make_unique<Impl>()) {
  impl_->repository = Repository::around(root);
  if (impl_->repository && git_repository_index(&impl_->index, impl_->repository->handle()) != 0)
    impl_->index = nullptr;
}

IgnoreRules::~IgnoreRules() {
  git_index_free(impl_->index);
}

bool IgnoreRules::ignores(const RelPath& path, bool is_folder) const {
  if (!impl_->repository) return false;
  std::string full = impl_->repository->prefix() + path.str() + (is_folder ? "/" : "");
  int result = 0;
  if (git_ignore_path_is_ignored(&result, impl_->repository->handle(), full.c_str()) != 0 || result == 0)
    return false;
  if (!impl_->index) return true;
  if (is_folder) {
    std::size_t at = 0;
    return git_index_find_prefix(&at, impl_->index, full.c_str()) != 0;
  }
  return git_index_get_bypath(impl_->index, full.c_str(), 0) == nullptr;
}

}  // namespace yc
