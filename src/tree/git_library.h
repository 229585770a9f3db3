// The repository that a tree is in, through libgit2.
#pragma once

#include <memory>
#include <string>

struct git_repository;

namespace yc {

// Starts libgit2 once in a process: starting it costs more than most of what we ask of it.
void use_git_library();

class Repository {
 public:
  // The repository whose working tree holds `folder` (absolute); null where there is none, and for a folder
  // that the repository around it ignores, since it is no part of it then.
  static std::unique_ptr<Repository> around(const std::string& folder);
  ~Repository();
  Repository(const Repository&) = delete;
  Repository& operator=(const Repository&) = delete;

  git_repository* handle() const { return handle_; }
  const std::string& top() const { return top_; }  // of the working tree, no trailing '/'
  const std::string& own() const { return own_; }  // its own folder (.git), no trailing '/'
  const std::string& prefix() const {
    return prefix_;
  }  // of `folder` below the top, with a trailing '/', or empty

 private:
  explicit Repository(git_repository* handle) : handle_(handle) {}

  git_repository* handle_;
  std::string top_, own_, prefix_;
};

}  // namespace yc
