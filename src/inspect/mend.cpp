#include "inspect/mend.h"

#include "formats/capabilities/members.h"
#include "inspect/reviewed.h"

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
  static const std::vector<std::string> kinds = {"unlisted",
                                                 "dangling",
                                                 "listed-twice",
                                                 "wrong-case",
                                                 "missing-unit-reference",
                                                 "unknown-unit",
                                                 "unused-unit-reference"};
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

}  // namespace

Plan mend(const TreeReader& tree, const std::string& kind) {
  Plan plan;
  FactsCache cache;
  ReferenceGraph graph = read_graph(tree, cache);
  plan.references_read = graph.references.size();
  if (kind.ends_with("-reference") || kind == "unknown-unit") {
    mend_reviewed(tree, graph, kind, plan);
    return plan;
  }
  std::size_t wanted = 0;
  std::vector<ManagedFinding> found = check_managed(tree, graph);
  for (const ManagedFinding& item : found) {
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
    return plan;
  }
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
  plan.verified = after_counts[kind] < before_counts[kind];
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
  return plan;
}

}  // namespace yc
