#include "formats/c_family/qt_inputs.h"

#include <fmt/format.h>

#include <unordered_set>

#include "formats/c_family/include_resolver.h"
#include "formats/meta_objects.h"

namespace yc::c_family {

namespace {

// What references of scripts lead to: folders that are searched, and whatever is named for certain.
struct ScriptTargets {
  std::unordered_set<RelPath> searched, named;
};

ScriptTargets targets_of_scripts(const ReferenceGraph& graph) {
  ScriptTargets out;
  for (const Reference& reference : graph.references) {
    if (is_source(graph.files.path(standing_of(reference).file))) continue;
    for (const Target& target : reference.targets) {
      if (target.kind != Target::Kind::tree) continue;
      if (reference.role == Role::search_root) out.searched.insert(target.path);
      if (reference.certainty == Certainty::certain) out.named.insert(target.path);
    }
  }
  return out;
}

}  // namespace

std::vector<Blocker> lost_qt_inputs(const ReadTree& before, const ReadTree& planned, const MoveSet& moves) {
  std::vector<Blocker> out;
  std::vector<PartedInput> all = parted_inputs(before.tree, moves);
  if (all.empty()) return out;
  ScriptTargets were = targets_of_scripts(before.graph), are = targets_of_scripts(planned.graph);
  for (const PartedInput& parted : all) {
    RelPath now = moves.map_file(parted.input);
    if (!parted.is_form && !parted.is_included && are.named.contains(now)) continue;
    bool was_searched = parted.is_form && parted.input.parent() != parted.source.parent() &&
                        parted.input.name() == now.name() && were.searched.contains(parted.input.parent());
    if (was_searched && are.searched.contains(now.parent())) continue;
    Blocker item;
    item.id = "found-beside";
    item.file = parted.input;
    std::string_view tool = parted.is_form ? "uic" : "moc";
    item.reason = fmt::format("is found by {} beside {}, and would not be as {} beside {}", tool,
                              parted.source.str(), now.str(), moves.map_file(parted.source).str());
    item.next = parted.is_form
                    ? "move both, or name its new folder in AUTOUIC_SEARCH_PATHS first; or let the "
                      "project's own build judge (… -- BUILD COMMAND)"
                    : "move both, or list it among the sources of the target first; or let the "
                      "project's own build judge (… -- BUILD COMMAND)";
    out.push_back(std::move(item));
  }
  return out;
}

}  // namespace yc::c_family
