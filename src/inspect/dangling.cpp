#include "inspect/dangling.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "inspect/managed.h"

namespace yc {

namespace {

// How alike two paths are from their ends: the more components agree, the likelier one was meant for the
// other.
std::size_t common_tail(const RelPath& a, const RelPath& b) {
  auto left = a.components(), right = b.components();
  std::size_t same = 0;
  while (same < left.size() && same < right.size() &&
         left[left.size() - 1 - same] == right[right.size() - 1 - same])
    ++same;
  return same;
}

// Finds the file that was meant by a path where nothing is.
class Alike {
 public:
  explicit Alike(const TreeReader& tree) : tree_(tree), nested_(missing_repositories(tree)) {
    for (const RelPath& path : tree.files()) {
      const Entry* entry = tree.find(path);
      if (!entry || entry->ignored) continue;
      by_name_[std::string(path.name())].push_back(path);
      for (RelPath folder = path.parent(); !folder.is_root(); folder = folder.parent()) {
        if (!known_.insert(folder).second) break;
        folders_[std::string(folder.name())].push_back(folder);
      }
    }
  }

  // The likeliest one, by its name and then by the folders before it; `ending` is what `wanted` leaves out.
  const RelPath* of(const RelPath& wanted, std::string_view ending = "") const {
    RelPath whole = RelPath::from_normal(wanted.str() + std::string(ending));
    const RelPath* best = best_of(by_name_, whole);
    // A name that many folders have tells nothing without its folder.
    bool is_bare = !ending.empty() && ending.front() == '/';
    return best && is_bare && common_tail(*best, whole) < 2 ? nullptr : best;
  }
  const RelPath* of(const Unmet& text) const {
    if (text.endings.empty()) return of(text.wanted);
    for (std::string_view ending : text.endings) {
      if (const RelPath* found = of(text.wanted, ending)) return found;
    }
    return nullptr;
  }

  // What is missing there is missing because the repository is: that is said once. Unless a repository that
  // has it is elsewhere.
  bool is_nested(const RelPath& wanted, const RelPath* meant) const {
    bool is_in_missing = std::any_of(nested_.begin(), nested_.end(),
                                     [&](const RelPath& folder) { return wanted.is_within(folder); });
    for (RelPath up = is_in_missing && meant ? meant->parent() : RelPath(); !up.is_root(); up = up.parent()) {
      if (tree_.find(up / ".git")) return false;
    }
    return is_in_missing;
  }

  bool is_only(const RelPath& meant) const {
    auto files = by_name_.find(meant.name()), folders = folders_.find(meant.name());
    return (files == by_name_.end() ? 0 : files->second.size()) +
               (folders == folders_.end() ? 0 : folders->second.size()) ==
           1;
  }
  const RelPath* folder_of(const RelPath& wanted) const { return best_of(folders_, wanted); }

 private:
  using ByName = std::map<std::string, std::vector<RelPath>, std::less<>>;

  static const RelPath* best_of(const ByName& names, const RelPath& wanted) {
    const RelPath* best = nullptr;
    std::size_t most = 0;
    auto alike = names.find(wanted.name());
    if (alike == names.end()) return best;
    for (const RelPath& path : alike->second) {
      std::size_t same =
          common_tail(path, wanted) * 16 + 8 - std::min<std::size_t>(8, path.components().size());
      if (!best || same > most) best = &path, most = same;
    }
    return best;
  }

  const TreeReader& tree_;
  ByName by_name_, folders_;
  std::set<RelPath> known_;
  std::vector<RelPath> nested_;
};

// Names something that is not there. Where no search root leads to an include, a guess at its target settles
// nothing.
bool is_dangling(const Reference& reference) {
  if (!reference.dangling || reference.role == Role::product) return false;
  return reference.targets.empty() || reference.role == Role::include;
}

// The path as the file that was meant would have it: "lib/level" as "lib/level.ts", or as
// "lib/level/index.ts".
RelPath as_meant(const RelPath& wanted, const RelPath& meant) {
  if (wanted.name() == meant.name()) return wanted;
  std::string name(meant.name());
  bool is_index = name.starts_with("index.") || name.starts_with("__init__.");
  return (is_index ? wanted : wanted.parent()) / name;
}

void add_unmet(const ReferenceGraph& graph, const Alike& alike, const IsIgnored& is_ignored,
               std::vector<Finding>& out) {
  std::set<std::pair<RelPath, std::uint32_t>> seen;
  for (const Unmet& text : graph.unmet) {
    bool is_pattern = text.what == "pattern";
    if (is_ignored && is_ignored(text.wanted)) continue;
    const RelPath* meant = is_pattern ? alike.folder_of(text.wanted) : alike.of(text);
    bool may_be_folder = text.what == "copied" || text.what == "folder";
    if (!meant && may_be_folder) meant = alike.folder_of(text.wanted);
    bool is_told = meant ? *meant != text.file : text.is_told;
    if (!is_told || alike.is_nested(text.wanted, meant) || !seen.emplace(text.file, text.span.begin).second)
      continue;
    Finding finding{
        text.what == "import" ? "lost-module"
        : is_pattern          ? "empty-pattern"
                              : "dangling",
        text.file,
        text.span,
        true,
        fmt::format("{} {} {}", text.what, text.text, is_pattern ? "takes nothing" : "leads nowhere"),
        meant ? meant->str() : "",
        text.is_note || (!meant && text.what == "copied")};
    finding.wanted = meant ? as_meant(text.wanted, *meant) : text.wanted;
    finding.is_only = meant && alike.is_only(*meant);
    out.push_back(std::move(finding));
  }
}

}  // namespace

std::vector<Finding> check_dangling(const TreeReader& tree, const ReferenceGraph& graph,
                                    const IsIgnored& is_ignored) {
  std::vector<Finding> out;
  Alike alike(tree);
  std::set<std::tuple<RelPath, Span, std::string>> seen;
  for (const Reference& reference : graph.references) {
    if (!is_dangling(reference)) continue;
    Seen view = as_seen(graph, reference);
    if (!seen.emplace(view.file, view.span, view.text).second) continue;
    Finding finding = finding_at(graph, reference,
                                 reference.role == Role::search_root ? "missing-search-root" : "dangling");
    Place wanted = place_of(reference.base.folder, reference.text.text(), reference.base.space);
    if (wanted.space != Space::tree) continue;
    // A file that is not in the tree at all under that name is most often made by the build.
    const RelPath* meant = alike.of(wanted.path);
    if (reference.role == Role::include && !meant) continue;
    if (!meant) meant = alike.folder_of(wanted.path);
    if (alike.is_nested(wanted.path, meant)) continue;
    bool guessed = !reference.targets.empty();
    finding.message = fmt::format("{} {} {}", name_of(reference.role), view.text,
                                  guessed ? "is found by no search root of its build unit" : "leads nowhere");
    finding.wanted = wanted.path;
    finding.is_only = meant && alike.is_only(*meant);
    if (guessed) {
      finding.suggestion = reference.targets.front().path.str();
    } else if (meant) {
      finding.suggestion = meant->str();
    }
    out.push_back(std::move(finding));
  }
  add_unmet(graph, alike, is_ignored, out);
  return out;
}

}  // namespace yc
