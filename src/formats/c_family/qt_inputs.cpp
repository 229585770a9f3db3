#include "formats/c_family/qt_inputs.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/c_family/include_resolver.h"
#include "formats/meta_objects.h"

namespace yc::c_family {

namespace {

bool is_listed(const ReferenceGraph& graph, const RelPath& header) {
  return std::any_of(graph.references.begin(), graph.references.end(), [&](const Reference& reference) {
    if (reference.certainty != Certainty::certain || is_source(graph.files.path(standing_of(reference).file)))
      return false;
    return std::any_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
      return target.kind == Target::Kind::tree && target.path == header;
    });
  });
}

// Whether a folder, seen by a property, is looked in for forms.
bool is_searched(const ReferenceGraph& graph, const RelPath& folder) {
  return std::any_of(graph.references.begin(), graph.references.end(), [&](const Reference& reference) {
    if (reference.role != Role::search_root || is_source(graph.files.path(standing_of(reference).file)))
      return false;
    return std::any_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
      return target.kind == Target::Kind::tree && target.path == folder;
    });
  });
}

}  // namespace

std::vector<Blocker> lost_qt_inputs(const ReadTree& before, const ReadTree& planned, const MoveSet& moves) {
  std::vector<Blocker> out;
  for (const PartedInput& parted : parted_inputs(before.tree, moves)) {
    RelPath now = moves.map_file(parted.input);
    if (!parted.is_form && !parted.is_included && is_listed(planned.graph, now)) continue;
    bool was_searched = parted.is_form && parted.input.parent() != parted.source.parent() &&
                        parted.input.name() == now.name() && is_searched(before.graph, parted.input.parent());
    if (was_searched && is_searched(planned.graph, now.parent())) continue;
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
