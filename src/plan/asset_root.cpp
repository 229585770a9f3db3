// A constant for a folder of assets, in the programs that load from it.
#include <map>
#include <set>

#include "formats/capabilities/spellings.h"
#include "formats/format.h"
#include "plan/restyle.h"

namespace yc {

namespace {

bool leads_into(const Reference& reference, const RelPath& folder) {
  bool is_path = reference.role == Role::argument && !reference.targets.empty();
  return is_path &&
         std::all_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
           return target.kind == Target::Kind::tree && target.path.is_within(folder);
         });
}

}  // namespace

Result<Plan> name_asset_root(const TreeReader& tree, const std::vector<RelPath>& paths,
                             const std::string& name, const RelPath& folder) {
  Plan plan;
  FactsCache cache;
  ReferenceGraph graph = read_graph(tree, cache);
  plan.references_read = graph.references.size();
  std::map<std::pair<RelPath, std::uint8_t>, std::vector<const Reference*>> by_file;
  for (const Reference& reference : graph.references) {
    Standing at = standing_of(reference);
    if (at.file == kNoFile || !leads_into(reference, folder)) continue;
    const RelPath& file = graph.files.path(at.file);
    bool asked = paths.empty() || std::any_of(paths.begin(), paths.end(),
                                              [&](const RelPath& path) { return file.is_within(path); });
    if (asked && !file.is_within(folder)) by_file[{file, reference.format}].push_back(&reference);
  }
  std::map<RelPath, FileEdits> proposed;
  for (const auto& [key, references] : by_file) {
    const auto* constants = offer<Constants>(key.second);
    if (!constants) continue;
    for (const Edit& edit : constants->through_constant(tree, graph, references, name, folder))
      proposed[edit.file].add(edit.span, edit.text);
  }
  OverlayTree overlay(tree, plan.moves);
  // A file whose paths would lead elsewhere is left as it is.
  while (true) {
    plan.edits.clear();
    for (const auto& [file, edits] : proposed) plan.edits[file] = edits;
    overlay.set_edits(&plan.edits);
    ReferenceGraph now = read_graph(overlay, cache);
    std::vector<Mismatch> wrong = compare_graphs(tree, graph, now, plan.moves, plan.edits);
    if (wrong.empty()) break;
    std::size_t before = proposed.size();
    for (const Mismatch& mismatch : wrong) {
      if (mismatch.reference < 0) continue;
      Standing at = standing_of(graph.references[static_cast<std::size_t>(mismatch.reference)]);
      if (at.file != kNoFile) proposed.erase(graph.files.path(at.file));
    }
    if (proposed.size() == before) proposed.clear();
    if (proposed.empty()) {
      plan.edits.clear();
      break;
    }
  }
  plan.verified = true;
  plan.rounds = 1;
  list_edits(
      tree, [](const RelPath&, const Span&) { return false; }, plan);
  return plan;
}

}  // namespace yc
