#include "tree/git_library.h"

#include <git2.h>

#include <filesystem>

namespace yc {

void use_git_library() {
  static const int started = git_libgit2_init();
  (void)started;
}

bool may_be_in_repository(const std::string& folder) {
  std::error_code error;
  for (std::filesystem::path up = folder;; up = up.parent_path()) {
    if (std::filesystem::exists(up / ".git", error)) return true;
    if (up == up.parent_path()) return false;
  }
}

}  // namespace yc
