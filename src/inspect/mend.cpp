#include "inspect/mend.h"

#include "formats/capabilities/members.h"
#include "inspect/reviewed.h"
#include "plan/catch_up.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc {

namespace {

std::vector<Edit> respelled(const ReferenceGraph& graph, const Reference& reference) {
  const TracedText& text = reference.text;
  if (text.pieces().empty()) return {};
  // The last piece that stands in a file, as far as it goes back in the path.
  const Piece& piece = text.pieces().back();
  const std::string& path = reference.targets.front().path.str();
  if (!piece.has_origin()) return {};
  std::string wanted;
  if (text.pieces().size() == 1) {
    wanted =
        PathStyle::of(piece.text).apply(relative_text(reference.base.folder, reference.targets.front().path));
  } else if (piece.text.size() <= path.size()) {
    wanted = path.substr(path.size() - piece.text.size());
  }
  auto written = format_at(reference.format).write(wanted, piece.style);
  if (wanted.empty() || !written) return {};
  return {Edit{graph.files.path(piece.file), piece.span, *written}};
}

}  // namespace

const std::vector<std::string>& mendable() {
  static const std::vector<std::string> kinds = {"unlisted",     "dangling",
                                                 "listed-twice", "wrong-case",
                                                 "lost-module",  "missing-unit-reference",
                                                 "unknown-unit", "unused-unit-reference"};
  return kinds;
}

namespace {

std::map<std::string, std::size_t> tally(const std::vector<Remark>& remarks) {
  std::map<std::string, std::size_t> out;
  for (const Remark& one : remarks) ++out[one.notice.id];
  return out;
}

// What formats say themselves how to mend: it must be gone then, and no finding may have come.
void mend_reviewed(const TreeReader& tree, const ReferenceGraph& graph, const std::string& kind, Plan& plan) {
  std::vector<Remark> found = review(tree, graph);
  for (const Remark& one : found) {
    if (one.notice.id != kind) continue;
    EditMap trial = plan.edits;
    bool fits = !one.mend.empty();
    for (const Edit& edit : one.mend) fits = fits && trial[edit.file].add(edit.span, edit.text, edit.pair);
    if (fits) plan.edits = std::move(trial);
    if (!fits)
      plan.notices.push_back({"unmended", one.notice.file, one.notice.span, one.notice.has_place,
                              "cannot be mended by itself: " + one.notice.message});
  }
  plan.verified = plan.edits.empty();
  if (plan.verified) return;
  OverlayTree overlay(tree, plan.moves, plan.changes);
  overlay.set_edits(&plan.edits);
  FactsCache cache;
  auto before = tally(found), after = tally(review(overlay, read_graph(overlay, cache)));
  plan.verified = after[kind] < before[kind];
  for (const auto& [id, count] : after)
    plan.verified = plan.verified && (count <= before[id] || id == "unused-unit-reference");
  if (!plan.verified) {
    plan.edits.clear();
    plan.blockers.push_back(
        {"unmended", {}, {}, "", "mending would bring other findings", "mend it by hand"});
  }
  plan.rounds = 1;
  list_edits(
      tree, [](const RelPath&, const Span&) { return false; }, plan);
}

// Leads what leads nowhere to other files: as if these had been moved there from where the texts want them.
Plan as_if_moved(const TreeReader& tree, const std::vector<Move>& moves, std::vector<Notice> notices) {
  Plan plan;
  plan.notices = std::move(notices);
  auto caught = catch_up(tree, moves, {});
  if (!caught) {
    plan.blockers.push_back({"unmended", {}, {}, "", caught.error().message, "mend it by hand"});
    return plan;
  }
  notices = std::move(plan.notices);
  plan = std::move(caught->mending);
  plan.notices.insert(plan.notices.end(), notices.begin(), notices.end());
  // What is left is told, and what can be mended is; but nothing is, where it is not known what it could
  // break.
  bool only_left = plan.in_part && std::all_of(plan.blockers.begin(), plan.blockers.end(),
                                               [](const Blocker& one) { return one.id == "lost"; });
  if (!only_left) return plan;
  for (const Blocker& one : plan.blockers)
    plan.notices.push_back({"unmended", one.file, one.span.value_or(Span{}), one.span.has_value(),
                            "cannot be mended by itself: \"" + one.text + "\" " + one.reason});
  plan.blockers.clear();
  plan.verified = true;
  return plan;
}

// To the only file that bears the name.
Plan mend_lost(const TreeReader& tree, const ReferenceGraph& graph, const std::string& kind) {
  std::map<RelPath, RelPath> moved;  // by where the files are
  Plan plan;
  for (const Finding& finding : check(tree, graph)) {
    if (finding.id != kind) continue;
    RelPath meant = RelPath::from_normal(finding.suggestion);
    bool is_plain = finding.is_only && !finding.wanted.is_root() && !tree.find(finding.wanted) &&
                    (!moved.contains(meant) || moved.at(meant) == finding.wanted);
    if (is_plain) {
      moved.emplace(meant, finding.wanted);
      continue;
    }
    std::string why = finding.suggestion.empty() ? "no file here has its name"
                      : !finding.is_only         ? "more than one file has its name"
                                                 : "its file is wanted at another place as well";
    plan.notices.push_back(
        {"unmended", finding.file, finding.span, finding.has_place, "cannot be mended by itself: " + why});
  }
  std::vector<Move> moves;
  for (const auto& [now, then] : moved) moves.push_back({then, now});
  plan.verified = moves.empty();
  return moves.empty() ? plan : as_if_moved(tree, moves, std::move(plan.notices));
}

void verify_members(const TreeReader& tree, FactsCache& cache, const ReferenceGraph& graph,
                    const std::string& kind, const std::vector<ManagedFinding>& found,
                    const std::optional<RelPath>& only, Plan& plan) {
  // What is mended must be gone, and nothing else may have come.
  OverlayTree overlay(tree, plan.moves, plan.changes);
  overlay.set_edits(&plan.edits);
  ReferenceGraph after = read_graph(overlay, cache);
  auto tally = [](const std::vector<ManagedFinding>& list) {
    std::map<std::string, std::size_t> out;
    for (const ManagedFinding& item : list) ++out[item.finding.id];
    return out;
  };
  auto before_counts = tally(found), after_counts = tally(check_managed(overlay, after));
  // A named file need not have been found.
  bool is_named = only && as_unlisted(overlay, after, *only).empty();
  plan.verified = is_named || after_counts[kind] < before_counts[kind];
  for (const auto& [id, count] : after_counts) plan.verified = plan.verified && count <= before_counts[id];
  for (const Mismatch& mismatch : compare_graphs(tree, graph, after, plan.moves, plan.edits)) {
    bool about = mismatch.reference < 0 ||
                 offer<MemberLists>(graph.references[static_cast<std::size_t>(mismatch.reference)].format);
    if (!about) plan.verified = false;
  }
  if (!plan.verified) {
    plan.edits.clear();
    plan.blockers.push_back(
        {"unmended", {}, {}, "", "mending would change something else", "mend it by hand"});
  }
  plan.rounds = 1;
  list_edits(
      tree, [](const RelPath&, const Span&) { return false; }, plan);
}

// Has projects list what they lack, and takes out what is wrong in them.
void mend_members(const TreeReader& tree, FactsCache& cache, const ReferenceGraph& graph,
                  const std::string& kind, const std::optional<RelPath>& only, Plan& plan) {
  std::size_t wanted = 0;
  std::vector<ManagedFinding> found = check_managed(tree, graph);
  if (only && as_unlisted(tree, graph, *only).empty()) {
    plan.notices.push_back({"unmended",
                            *only,
                            {},
                            false,
                            "no project lists a file of its kind beside it, or one lists it already"});
  }
  for (const ManagedFinding& item : only ? as_unlisted(tree, graph, *only) : found) {
    if (item.finding.id != kind || item.reference < 0) continue;
    ++wanted;
    const Reference& reference = graph.references[static_cast<std::size_t>(item.reference)];
    const auto* lists = offer<MemberLists>(reference.format);
    std::vector<Edit> edits;
    if (kind == "wrong-case") {
      edits = respelled(graph, reference);
    } else if (lists) {
      edits = kind == "unlisted" ? lists->list_member(graph, reference, item.path, tree)
                                 : lists->unlist_member(graph, reference, tree);
    }
    EditMap trial = plan.edits;
    bool fits = !edits.empty();
    for (const Edit& edit : edits) fits = fits && trial[edit.file].add(edit.span, edit.text, edit.pair);
    if (fits) {
      plan.edits = std::move(trial);
    } else {
      plan.notices.push_back({"unmended", item.finding.file, item.finding.span, item.finding.has_place,
                              "cannot be mended by itself"});
    }
  }
  if (wanted == 0 || plan.edits.empty()) {
    plan.verified = true;
    return;
  }
  verify_members(tree, cache, graph, kind, found, only, plan);
}

}  // namespace

Plan mend(const TreeReader& tree, const std::string& kind, const std::optional<RelPath>& only) {
  Plan plan;
  FactsCache cache;
  ReferenceGraph graph = read_graph(tree, cache);
  plan.references_read = graph.references.size();
  if (kind.ends_with("-reference") || kind == "unknown-unit") {
    mend_reviewed(tree, graph, kind, plan);
    return plan;
  }
  if (kind == "dangling" || kind == "lost-module") {
    plan = mend_lost(tree, graph, kind);
    if (kind == "lost-module" || !plan.edits.empty()) return plan;
  }
  mend_members(tree, cache, graph, kind, only, plan);
  return plan;
}

Plan lead_to_meant(const TreeReader& tree, const Finding& finding) {
  if (finding.wanted.is_root() || finding.suggestion.empty() || tree.find(finding.wanted)) {
    Plan plan;
    plan.blockers.push_back({"unmended", finding.file, finding.span, "", "names no other file that is meant",
                             "write it so that it leads to the file that is"});
    return plan;
  }
  return as_if_moved(tree, {{finding.wanted, RelPath::from_normal(finding.suggestion)}}, {});
}

}  // namespace yc
