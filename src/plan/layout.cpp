#include "plan/layout.h"

#include <fmt/format.h>

#include <algorithm>
#include <numeric>
#include <set>

#include "plan/layout_kinds.h"
#include "plan/move_sheet.h"

namespace yc {

namespace {

class Filler {
 public:
  Filler(const TreeReader& tree, const ReferenceGraph& graph, const std::vector<LayoutRule>& rules)
      : tree_(tree), graph_(graph), rules_(rules) {
    out_.in_place.resize(rules.size());
  }

  Layout run() {
    folder({});
    std::sort(out_.misplaced.begin(), out_.misplaced.end(),
              [](const Misplaced& a, const Misplaced& b) { return a.path < b.path; });
    mark_taken();
    return std::move(out_);
  }

 private:
  // True if a rule places it, with all that is in it.
  bool place(const RelPath& path, bool is_folder) {
    std::string kind;
    bool is_judged = false;
    for (std::size_t i = 0; i < rules_.size(); ++i) {
      const LayoutRule& rule = rules_[i];
      if (rule.of_files == is_folder) continue;
      auto to = placed_by(rule, path);
      if (!to) continue;
      if (!rule.holds.empty()) {
        if (!is_judged) kind = is_folder ? kind_of_folder(tree_, graph_, path) : kind_of_file(path);
        is_judged = true;
        if (kind != rule.holds) continue;
      }
      // A folder does not go into itself.
      bool is_inside = is_folder && *to != path && to->is_within(path);
      if (*to == path || is_inside) {
        ++out_.in_place[i];
      } else {
        out_.misplaced.push_back({path, *to, rule.holds.empty() ? "" : kind, i, is_folder, false});
      }
      return true;
    }
    return false;
  }

  void folder(const RelPath& path) {
    for (const std::string& name : tree_.children(path)) {
      RelPath child = path / name;
      const Entry* entry = tree_.find(child);
      if (!entry || entry->ignored || entry->guarded) continue;
      bool is_folder = tree_.is_folder(child);
      if (is_folder ? !place(child, true) : (tree_.is_file(child) && place(child, false), false))
        folder(child);
    }
  }

  void mark_taken() {
    std::set<RelPath> leaving, wanted;
    for (const Misplaced& one : out_.misplaced) leaving.insert(one.path);
    for (Misplaced& one : out_.misplaced) {
      bool is_there = tree_.find(one.place) && !leaving.contains(one.place);
      one.is_taken = is_there || !wanted.insert(one.place).second;
    }
  }

  const TreeReader& tree_;
  const ReferenceGraph& graph_;
  const std::vector<LayoutRule>& rules_;
  Layout out_;
};

}  // namespace

std::vector<Move> Layout::moves() const {
  std::vector<Move> out;
  for (const Misplaced& one : misplaced) {
    if (!one.is_taken) out.push_back({one.path, one.place});
  }
  return out;
}

std::size_t Layout::in_place_in_all() const {
  return std::accumulate(in_place.begin(), in_place.end(), std::size_t{0});
}

Layout lay_out(const TreeReader& tree, const ReferenceGraph& graph, const std::vector<LayoutRule>& rules) {
  return Filler(tree, graph, rules).run();
}

std::string sheet_of(const Layout& layout, const std::vector<LayoutRule>& rules) {
  std::string out;
  for (std::size_t i = 0; i < rules.size(); ++i) {
    std::string lines;
    for (const Misplaced& one : layout.misplaced) {
      if (one.rule != i) continue;
      std::string mark = one.is_folder ? "/" : "";
      std::string line = sheet_text(one.path) + " -> " + sheet_text(one.place);
      if (one.is_folder && line.find('"') == std::string::npos)
        line = sheet_text(one.path) + mark + " -> " + sheet_text(one.place) + mark;
      lines += (one.is_taken ? "# taken: " : "") + line + "\n";
    }
    if (lines.empty()) continue;
    std::string what = rules[i].holds.empty() ? "what matches" : rules[i].holds;
    out += fmt::format("{}# {}: {} belongs at {}\n{}", out.empty() ? "" : "\n", rules[i].place, what,
                       rules[i].to, lines);
  }
  return out;
}

}  // namespace yc
