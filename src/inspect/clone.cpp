#include "inspect/clone.h"

#include <fmt/format.h>

#include <set>
#include <tuple>

#include "formats/format.h"

namespace yc {

namespace {

// Why a path of the working tree is not in the commit; empty if it is.
std::string lack(const TreeReader& tree, const CommitTree& committed, const RelPath& path) {
  const Entry* entry = tree.find(path);
  if (!entry || path.is_root()) return "";
  for (RelPath up = path; !up.is_root(); up = up.parent()) {
    if (committed.is_nested_repository(up))
      return up == path
                 ? ""
                 : fmt::format("lies in the nested repository {}, which a clone leaves empty", up.str());
  }
  if (committed.find(path)) return "";
  if (entry->ignored) return "is ignored by version control";
  if (entry->kind != EntryKind::folder) return "is not committed";
  return tree.children(path).empty() ? "is an empty folder, which version control does not keep"
                                     : "holds no committed file";
}

using Place3 = std::tuple<RelPath, std::string, std::string>;

Place3 place_of_finding(const Finding& finding) {
  return {finding.file, finding.id, finding.message};
}

}  // namespace

std::vector<Finding> check_clone(const TreeReader& tree, const ReferenceGraph& graph,
                                 const CommitTree& committed) {
  std::vector<Finding> out;
  std::set<std::tuple<RelPath, Span, RelPath>> seen;
  for (const Reference& reference : graph.references) {
    if (reference.role == Role::product || reference.is_pattern()) continue;
    // What is ignored counts as made by the build, so nothing leads to it: but it may be there all the same.
    Place wanted = place_of(reference.base.folder, reference.text.text(), reference.base.space);
    const Entry* there = wanted.space == Space::tree ? tree.find(wanted.path) : nullptr;
    std::vector<Target> targets = reference.targets;
    if (targets.empty() && reference.dangling && there && there->ignored)
      targets.push_back({Target::Kind::tree, wanted.path, {}});
    for (const Target& target : targets) {
      if (target.kind != Target::Kind::tree) continue;
      std::string why = lack(tree, committed, target.path);
      Seen view = as_seen(graph, reference);
      if (why.empty() || !seen.emplace(view.file, view.span, target.path).second) continue;
      out.push_back({"not-in-clone", view.file, view.span, view.has_place,
                     fmt::format("{} leads to {}, which {}", name_of(reference.role), target.path.str(), why),
                     ""});
    }
  }
  // What the committed versions of the files themselves would miss, where the working versions do not.
  FactsCache cache;
  std::set<Place3> known;
  for (const Finding& finding : check(tree, graph)) known.insert(place_of_finding(finding));
  for (Finding& finding : check(committed, read_graph(committed, cache))) {
    if (known.contains(place_of_finding(finding))) continue;
    const Entry* here = tree.find(finding.file);
    auto bytes = here ? tree.read(finding.file) : Result<Bytes>(Error{});
    bool is_changed = !bytes || blob_id(**bytes) != committed.blob(finding.file);
    if (is_changed) finding.message += "; the change of this file that mends it is not committed";
    finding.id = "not-in-clone";
    // The place is one in the committed text, which is not the one at hand.
    if (is_changed) finding.has_place = false;
    bool told = !is_changed && seen.lower_bound({finding.file, finding.span, {}}) != seen.end() &&
                std::get<0>(*seen.lower_bound({finding.file, finding.span, {}})) == finding.file &&
                std::get<1>(*seen.lower_bound({finding.file, finding.span, {}})) == finding.span;
    if (!told) out.push_back(std::move(finding));
  }
  return out;
}

}  // namespace yc
