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

using ByFile = std::map<std::pair<RelPath, std::uint8_t>, std::vector<const Reference*>>;
using Proposed = std::map<RelPath, FileEdits>;

// The references that a function can take the folder from; they go from `by_file`.
Proposed in_loaders(const TreeReader& tree, const ReferenceGraph& graph, ByFile& by_file,
                    const std::string& name, const RelPath& folder) {
  Proposed out;
  std::map<std::uint8_t, std::vector<const Reference*>> by_format;
  for (const auto& [key, references] : by_file)
    by_format[key.second].insert(by_format[key.second].end(), references.begin(), references.end());
  for (const auto& [format, references] : by_format) {
    const auto* constants = offer<Constants>(format);
    if (!constants) continue;
    for (const Edit& edit : constants->in_loader(tree, graph, references, name, folder))
      out[edit.file].add(edit.span, edit.text);
  }
  for (auto& [key, references] : by_file) {
    auto edited = out.find(key.first);
    if (edited == out.end()) continue;
    std::erase_if(references, [&](const Reference* reference) {
      std::uint32_t begin = reference->text.first_origin().span.begin;
      return std::any_of(edited->second.items().begin(), edited->second.items().end(),
                         [&](const FileEdits::Item& edit) { return edit.span.begin == begin; });
    });
  }
  std::erase_if(by_file, [](const auto& item) { return item.second.empty(); });
  return out;
}

Proposed propose(const TreeReader& tree, const ReferenceGraph& graph, ByFile by_file, const std::string& name,
                 const RelPath& folder, bool with_loaders) {
  Proposed out;
  if (with_loaders) out = in_loaders(tree, graph, by_file, name, folder);
  for (const auto& [key, references] : by_file) {
    const auto* constants = offer<Constants>(key.second);
    if (!constants || out.contains(key.first)) continue;
    for (const Edit& edit : constants->through_constant(tree, graph, references, name, folder))
      out[edit.file].add(edit.span, edit.text);
  }
  return out;
}

// Puts into the plan what leads where it did; a file whose paths would lead elsewhere is left as it is.
void settle(const TreeReader& tree, const ReferenceGraph& graph, FactsCache& cache, Proposed proposed,
            Plan& plan) {
  OverlayTree overlay(tree, plan.moves);
  while (true) {
    plan.edits.clear();
    for (const auto& [file, edits] : proposed) plan.edits[file] = edits;
    overlay.set_edits(&plan.edits);
    ReferenceGraph now = read_graph(overlay, cache);
    std::vector<Mismatch> wrong = compare_graphs(tree, graph, now, plan.moves, plan.edits);
    if (wrong.empty()) return;
    std::size_t before = proposed.size();
    for (const Mismatch& mismatch : wrong) {
      if (mismatch.reference < 0) continue;
      Standing at = standing_of(graph.references[static_cast<std::size_t>(mismatch.reference)]);
      if (at.file != kNoFile) proposed.erase(graph.files.path(at.file));
    }
    if (proposed.size() == before) proposed.clear();
    if (proposed.empty()) {
      plan.edits.clear();
      return;
    }
  }
}

}  // namespace

Result<Plan> name_asset_root(const TreeReader& tree, const std::vector<RelPath>& paths,
                             const std::string& name, const RelPath& folder) {
  Plan plan;
  FactsCache cache;
  ReferenceGraph graph = read_graph(tree, cache);
  plan.references_read = graph.references.size();
  ByFile by_file;
  for (const Reference& reference : graph.references) {
    Standing at = standing_of(reference);
    if (at.file == kNoFile || !leads_into(reference, folder)) continue;
    const RelPath& file = graph.files.path(at.file);
    bool asked = paths.empty() || std::any_of(paths.begin(), paths.end(),
                                              [&](const RelPath& path) { return file.is_within(path); });
    if (asked && !file.is_within(folder)) by_file[{file, reference.format}].push_back(&reference);
  }
  settle(tree, graph, cache, propose(tree, graph, by_file, name, folder, true), plan);
  // Where the function that opens them cannot hold the constant, each of its users does.
  if (plan.edits.empty())
    settle(tree, graph, cache, propose(tree, graph, by_file, name, folder, false), plan);
  plan.verified = true;
  plan.rounds = 1;
  list_edits(
      tree, [](const RelPath&, const Span&) { return false; }, plan);
  return plan;
}

}  // namespace yc
