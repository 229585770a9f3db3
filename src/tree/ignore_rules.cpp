#include "tree/ignore_rules.h"

#include <fmt/format.h>
#include <fnmatch.h>
#include <git2.h>
#include <git2/sys/repository.h>
#include <sys/stat.h>

#include <algorithm>
#include <sstream>
#include <vector>

#include "tree/absent_files.h"
#include "tree/beneath.h"
#include "tree/git_library.h"
#include "tree/moves.h"

namespace yc {

namespace {

constexpr std::uint64_t kLongestRules = 16'000'000;  // of a list of rules

}  // namespace

struct IgnoreRules::Impl {
  std::unique_ptr<Repository> repository;
  git_repository* stand_in = nullptr;  // for the rules alone, where the repository cannot be used
  git_index* index = nullptr;
  std::string top, prefix;  // as Repository has them; no top where there is no repository
  std::string problem;

  git_repository* handle() const { return repository ? repository->handle() : stand_in; }
};

namespace {

// A repository in memory that has the working tree at `top`, and so its ignore files.
git_repository* stand_in_at(const std::string& top) {
  use_git_library();
  git_repository* out = nullptr;
  if (git_repository_new(&out) != 0) return nullptr;
  git_config* config = nullptr;
  if (git_config_new(&config) == 0) git_repository_set_config(out, config);
  git_config_free(config);
  if (git_repository_set_workdir(out, top.c_str(), 0) == 0) return out;
  git_repository_free(out);
  return nullptr;
}

}  // namespace

IgnoreRules::IgnoreRules(const std::string& root) : impl_(std::make_unique<Impl>()) {
  auto found = Repository::look_for(root);
  impl_->repository = std::move(found.repository);
  impl_->problem = std::move(found.problem);
  impl_->top = found.top;
  if (impl_->repository) {
    impl_->prefix = impl_->repository->prefix();
    if (git_repository_index(&impl_->index, impl_->repository->handle()) != 0) {
      impl_->index = nullptr;
      impl_->problem = "its index cannot be read: " + git_library_says();
    }
  } else if (!impl_->problem.empty()) {
    impl_->stand_in = stand_in_at(impl_->top);
    if (root.size() > impl_->top.size()) impl_->prefix = root.substr(impl_->top.size() + 1) + "/";
  }
}

IgnoreRules::~IgnoreRules() {
  git_index_free(impl_->index);
  git_repository_free(impl_->stand_in);
}

const std::string& IgnoreRules::problem() const {
  return impl_->problem;
}

std::vector<AbsentFile> IgnoreRules::absent() const {
  return impl_->index ? absent_files(impl_->index, impl_->prefix) : std::vector<AbsentFile>();
}

bool IgnoreRules::may_lack_files() const {
  if (impl_->index || !impl_->repository) return false;
  struct stat info {};
  return stat((impl_->repository->own() + "/info/sparse-checkout").c_str(), &info) == 0;
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
  if (!impl_->handle()) return "";
  const std::string& top = impl_->top;
  RelPath full = RelPath::from_normal(impl_->prefix + path.str());
  // The deepest file decides, and in it the last line.
  std::vector<std::pair<RelPath, std::string>> lists;
  for (RelPath up = full.parent();; up = up.parent()) {
    lists.emplace_back(up, (up / ".gitignore").str());
    if (up.is_root()) break;
  }
  lists.emplace_back(RelPath(), ".git/info/exclude");
  auto held = Beneath::open(top);
  for (const auto& [folder, name] : lists) {
    auto bytes = held ? read_beneath(*held, name, kLongestRules) : Result<std::string>(held.error());
    if (!bytes) continue;
    std::istringstream file(*bytes);
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

bool IgnoreRules::is_left_by_compiler(const RelPath& path) const {
  static constexpr std::string_view kEndings[] = {".o", ".obj", ".lo", ".gcno", ".gcda", ".pyc"};
  if (!impl_->index || git_index_entrycount(impl_->index) == 0) return false;
  if (std::find(std::begin(kEndings), std::end(kEndings), path.extension()) == std::end(kEndings))
    return false;
  return git_index_get_bypath(impl_->index, (impl_->prefix + path.str()).c_str(), 0) == nullptr;
}

bool IgnoreRules::ignores(const RelPath& path, bool is_folder) const {
  if (!impl_->handle()) return false;
  std::string full = impl_->prefix + path.str() + (is_folder ? "/" : "");
  int result = 0;
  if (git_ignore_path_is_ignored(&result, impl_->handle(), full.c_str()) != 0 || result == 0) return false;
  if (!impl_->index) return true;
  if (is_folder) {
    std::size_t at = 0;
    return git_index_find_prefix(&at, impl_->index, full.c_str()) != 0;
  }
  return git_index_get_bypath(impl_->index, full.c_str(), 0) == nullptr;
}

}  // namespace yc
