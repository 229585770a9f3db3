// Dependencies inherited from one definition at the top, and back.
#include <algorithm>

#include "formats/capabilities/shared_definitions.h"
#include "formats/format.h"
#include "plan/restyle.h"

namespace yc {

namespace {

// What units use of each other, however it is said.
std::vector<std::string> uses_of(const ReferenceGraph& graph) {
  std::vector<std::string> out;
  for (const Crate& crate : graph.crates) {
    for (const auto& [name, root] : crate.uses)
      out.push_back(crate.root.str() + "\n" + name + "\n" + root.str());
  }
  for (const Boundary& boundary : graph.boundaries) {
    for (const RelPath& used : boundary.uses) out.push_back(boundary.file.str() + "\n" + used.str());
  }
  std::sort(out.begin(), out.end());
  out.erase(std::unique(out.begin(), out.end()), out.end());
  return out;
}

bool stands_in(const Reference& reference, const ReferenceGraph& graph, const EditMap& edits) {
  return std::any_of(reference.text.pieces().begin(), reference.text.pieces().end(), [&](const Piece& piece) {
    if (!piece.has_origin()) return false;
    auto of_file = edits.find(graph.files.path(piece.file));
    return of_file != edits.end() &&
           std::any_of(of_file->second.items().begin(), of_file->second.items().end(),
                       [&](const FileEdits::Item& item) { return item.span.holds(piece.span); });
  });
}

// Whether everything leads where it did, but for what is said at the top now, and units use what they did.
bool holds(const TreeReader& tree, const Plan& plan, const ReferenceGraph& before, FactsCache& cache) {
  OverlayTree overlay(tree, plan.moves, plan.changes);
  overlay.set_edits(&plan.edits);
  ReferenceGraph after = read_graph(overlay, cache);
  if (uses_of(before) != uses_of(after)) return false;
  for (const Mismatch& mismatch : compare_graphs(tree, before, after, plan.moves, plan.edits)) {
    if (mismatch.kind == Mismatch::Kind::gained) continue;
    bool is_said_at_top =
        mismatch.reference >= 0 &&
        stands_in(before.references[static_cast<std::size_t>(mismatch.reference)], before, plan.edits);
    if (!is_said_at_top) return false;
  }
  return true;
}

void take(const SharedDefinitions::Change& change, Plan& plan) {
  for (const Edit& edit : change.edits) plan.edits[edit.file].add(edit.span, edit.text);
  for (const auto& [path, bytes] : change.made) plan.changes.made[path] = bytes;
  plan.changes.dropped.insert(change.dropped.begin(), change.dropped.end());
}

}  // namespace

Plan share_definitions(const TreeReader& tree, const std::vector<RelPath>& paths, bool is_shared) {
  Plan plan;
  FactsCache cache;
  ReferenceGraph graph = read_graph(tree, cache);
  plan.references_read = graph.references.size();
  ClaimedFiles claimed = claimed_files(tree);
  for (const auto& format : all_that_offer<SharedDefinitions>()) {
    ClaimedTree before{tree, claimed[format.format]};
    for (const SharedDefinitions::Change& change :
         is_shared ? format->share(before) : format->unshare(before)) {
      bool is_asked =
          paths.empty() || std::all_of(change.edits.begin(), change.edits.end(), [&](const Edit& edit) {
            return std::any_of(paths.begin(), paths.end(),
                               [&](const RelPath& path) { return edit.file.is_within(path); });
          });
      if (!is_asked) continue;
      EditMap edits = plan.edits;
      FileChanges changes = plan.changes;
      take(change, plan);
      if (holds(tree, plan, graph, cache)) continue;
      plan.edits = std::move(edits);
      plan.changes = std::move(changes);
    }
  }
  plan.verified = true;
  plan.rounds = 1;
  list_edits(
      tree, [](const RelPath&, const Span&) { return false; }, plan);
  return plan;
}

}  // namespace yc
