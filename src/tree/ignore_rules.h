// Which paths version control ignores, asked of libgit2.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/path.h"
#include "base/result.h"

namespace yc {

class MoveSet;
struct AbsentFile;

// Failure::unsettled if a file would move to where version control ignores it: a later commit would lack it.
Status check_not_ignored(const std::string& root, const MoveSet& moves);

class IgnoreRules {
 public:
  // For the tree at `root` (absolute); without a repository nothing is ignored.
  explicit IgnoreRules(const std::string& root);
  ~IgnoreRules();
  IgnoreRules(const IgnoreRules&) = delete;
  IgnoreRules& operator=(const IgnoreRules&) = delete;

  // A path that is tracked all the same does not count as ignored.
  bool ignores(const RelPath& path, bool is_folder) const;
  // Whether a file that a compiler makes of a source, by its ending, is not tracked where other files are:
  // whoever clones the repository does not have it.
  bool is_left_by_compiler(const RelPath& path) const;
  // Why the repository that is there cannot be used; its rules are followed all the same, as far as its
  // working tree tells them. Empty if it can, or there is none.
  const std::string& problem() const;
  // Tracked files that a sparse checkout leaves out.
  std::vector<AbsentFile> absent() const;
  // Whether that cannot be told though there is such a checkout, as its index is of a kind that is not read.
  bool may_lack_files() const;
  // Where the rule stands that ignores a path, as "file:line (pattern)"; empty if that cannot be told.
  std::string rule_for(const RelPath& path) const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace yc
