#include <algorithm>
#include <map>
#include <set>

#include "plan/layout.h"
#include "plan/layout_kinds.h"

namespace yc {

namespace {

// A rule is proposed for at least so many that follow it, and at most half as many that do not.
constexpr std::size_t kFewest = 2;

using ByKind = std::map<std::string, std::vector<RelPath>>;

class Learner {
 public:
  Learner(const TreeReader& tree, const ReferenceGraph& graph) : tree_(tree), graph_(graph) { collect({}); }

  std::vector<LayoutRule> run() {
    std::vector<LayoutRule> out;
    for (const std::string& kind : folder_kinds()) add(kind, folders_[kind], false, out);
    for (const std::string& kind : file_kinds()) add(kind, files_[kind], true, out);
    // What earlier rules place is no longer asked: all are held to the tree together.
    for (std::size_t round = 0; round <= out.size(); ++round) {
      Layout layout = lay_out(tree_, graph_, out);
      if (layout.misplaced.empty()) break;
      for (const Misplaced& one : layout.misplaced) out[one.rule].except.push_back(one.path.str());
    }
    Layout layout = lay_out(tree_, graph_, out);
    std::vector<LayoutRule> kept;
    for (std::size_t i = 0; i < out.size(); ++i) {
      bool is_followed = layout.in_place[i] >= kFewest && out[i].except.size() * 2 <= layout.in_place[i];
      if (is_followed) kept.push_back(out[i]);
    }
    return kept;
  }

 private:
  // Folders that are something, with nothing below them looked at, and files outside of such.
  void collect(const RelPath& folder) {
    for (const std::string& name : tree_.children(folder)) {
      RelPath path = folder / name;
      const Entry* entry = tree_.find(path);
      if (!entry || entry->ignored || entry->guarded) continue;
      if (tree_.is_folder(path)) {
        std::string kind = kind_of_folder(tree_, graph_, path);
        bool is_unit = kind == "program" || kind == "library" || kind == "private";
        if (!kind.empty()) folders_[kind].push_back(path);
        if (!is_unit) collect(path);
      } else if (!folder.is_root()) {
        std::string kind = kind_of_file(path);
        if (!kind.empty()) files_[kind].push_back(path);
      }
    }
  }

  // The folder that most of them lie in, counted within each folder above it.
  void add(const std::string& kind, const std::vector<RelPath>& all, bool of_files,
           std::vector<LayoutRule>& out) {
    std::set<RelPath> parents;
    for (const RelPath& path : all) {
      for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) parents.insert(up);
    }
    std::set<RelPath> taken;
    for (const RelPath& parent : parents) {
      RelPath scope = parent.parent();
      bool is_known = std::any_of(taken.begin(), taken.end(), [&](const RelPath& other) {
        return parent.is_within(other) || scope.is_within(other) || other.is_within(scope);
      });
      if (is_known) continue;
      LayoutRule rule;
      rule.of_files = of_files;
      rule.holds = kind;
      rule.matches = {scope.is_root() ? "**" : scope.str() + "/**"};
      rule.to = parent.str() + "/";
      std::size_t follow = 0;
      for (const RelPath& path : all) {
        if (!path.is_within(scope)) continue;
        if (path.is_within(parent)) {
          ++follow;
        } else {
          rule.except.push_back(path.str());
        }
      }
      // A folder that holds nothing else beside it says nothing of where such belong.
      if (follow < kFewest || rule.except.size() * 2 > follow || !is_one_of_several(parent)) continue;
      taken.insert(parent);
      out.push_back(std::move(rule));
    }
  }

  bool is_one_of_several(const RelPath& folder) const {
    std::size_t count = 0;
    for (const std::string& name : tree_.children(folder.parent())) {
      const Entry* entry = tree_.find(folder.parent() / name);
      if (entry && !entry->ignored) ++count;
    }
    return count > 1;
  }

  const TreeReader& tree_;
  const ReferenceGraph& graph_;
  ByKind folders_, files_;
};

}  // namespace

std::vector<LayoutRule> learn_layout(const TreeReader& tree, const ReferenceGraph& graph) {
  return Learner(tree, graph).run();
}

}  // namespace yc
