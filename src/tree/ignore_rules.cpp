#include "tree/ignore_rules.h"

#include <fmt/format.h>
#include <fnmatch.h>
#include <git2.h>

#include <fstream>
#include <vector>

#include "tree/git_library.h"
#include "tree/moves.h"

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

namespace {

// Whether a line of an ignore file fits a path given from that file's folder, or a folder on the way to it
// (see gitignore(5)). Only to name the rule: whether a path is ignored is the library's to say.
bool fits(std::string pattern, const std::string& path) {
  while (!pattern.empty() && (pattern.back() == '\r' || pattern.back() == ' ')) pattern.pop_back();
  if (!pattern.empty() && pattern.back() == '/') pattern.pop_back();
  if (pattern.empty() || pattern.front() == '#' || pattern.front() == '!') return false;
  bool is_anchored = pattern.find('/') != std::string::npos;
  if (pattern.front() == '/') pattern.erase(0, 1);
  int flags = pattern.find("**") == std::string::npos ? FNM_PATHNAME : 0;
  for (std::size_t end = path.find('/');; end = path.find('/', end + 1)) {
    std::string head = path.substr(0, end);
    std::string name = head.substr(head.rfind('/') + 1);
    if (fnmatch(pattern.c_str(), (is_anchored ? head : name).c_str(), flags) == 0) return true;
    if (end == std::string::npos) return false;
  }
}

}  // namespace

std::string IgnoreRules::rule_for(const RelPath& path) const {
  if (!impl_->repository) return "";
  const std::string& top = impl_->repository->top();
  RelPath full = RelPath::from_normal(impl_->repository->prefix() + path.str());
  // The deepest file decides, and in it the last line.
  std::vector<std::pair<RelPath, std::string>> lists;
  for (RelPath up = full.parent();; up = up.parent()) {
    lists.emplace_back(up, (up / ".gitignore").str());
    if (up.is_root()) break;
  }
  lists.emplace_back(RelPath(), ".git/info/exclude");
  for (const auto& [folder, name] : lists) {
    std::ifstream file(top + "/" + name);
    std::string found;
    std::string line;
    for (int number = 1; std::getline(file, line); ++number) {
      if (fits(line, std::string(full.below(folder)))) found = fmt::format("{}:{} ({})", name, number, line);
    }
    if (!found.empty()) return found;
  }
  return "";
}

Status check_not_ignored(const std::string& root, const MoveSet& moves) {
  IgnoreRules rules(root);
  for (const Move& move : moves.files()) {
    if (!rules.ignores(move.to, false)) continue;
    std::string rule = rules.rule_for(move.to);
    return Error{Failure::unsettled, move.to.str(),
                 "would be ignored by version control" + (rule.empty() ? "" : ", see " + rule),
                 "choose another place, or change that rule first"};
  }
  return {};
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
