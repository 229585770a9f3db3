// Which paths version control ignores, asked of libgit2.
#pragma once

#include <memory>
#include <string>

#include "base/path.h"

namespace yc {

class IgnoreRules {
 public:
  // For the tree at `root` (absolute); without a repository nothing is ignored.
  explicit IgnoreRules(const std::string& root);
  ~IgnoreRules();
  IgnoreRules(const IgnoreRules&) = delete;
  IgnoreRules& operator=(const IgnoreRules&) = delete;

  // A path that is tracked all the same does not count as ignored.
  bool ignores(const RelPath& path, bool is_folder) const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace yc
