// The repository that a tree is in, through libgit2.
#pragma once

#include <memory>
#include <string>

struct git_repository;

namespace yc {

// Starts libgit2 once in a process: starting it costs more than most of what we ask of it.
void use_git_library();
// What libgit2 says of its last failure in this thread.
std::string git_library_says();

class Repository {
 public:
  struct Found;
  // The repository whose working tree holds `folder` (absolute); none where there is none, and for a folder
  // that the repository around it ignores, since it is no part of it then.
  static Found look_for(const std::string& folder);
  // The same for those who do without one that cannot be used.
  static std::unique_ptr<Repository> around(const std::string& folder);
  ~Repository();
  Repository(const Repository&) = delete;
  Repository& operator=(const Repository&) = delete;

  git_repository* handle() const { return handle_; }
  const std::string& top() const { return top_; }  // of the working tree, no trailing '/'
  const std::string& own() const { return own_; }  // its own folder (.git), no trailing '/'
  // Its data that all its working trees share; own() but in a further working tree.
  const std::string& common() const { return common_; }
  const std::string& prefix() const {
    return prefix_;
  }  // of `folder` below the top, with a trailing '/', or empty

 private:
  explicit Repository(git_repository* handle) : handle_(handle) {}

  git_repository* handle_;
  std::string top_, own_, common_, prefix_;
};

struct Repository::Found {
  std::unique_ptr<Repository> repository;
  std::string problem;  // why the one that is there cannot be used; empty if it can, or none is there
  std::string top;      // of the working tree, wherever there is one
};

// Whether `folder` (absolute) lies in a repository's own data: a bare one, or a `.git` folder.
bool is_in_repository_data(const std::string& folder);
// Whether version control tracks anything in `folder` (absolute), which lies in the tree at `root`.
bool is_tracked(const std::string& root, const std::string& folder);

}  // namespace yc
