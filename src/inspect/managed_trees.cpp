#include "inspect/managed_trees.h"

#include <algorithm>
#include <set>

#include "inspect/managed.h"

namespace yc {

namespace {

// Whether folders that are shown are those on disk, or the last of them: "Views" for App/Views.
bool is_mirrored(const VirtualPlace& place) {
  std::string shown = place.shown;
  std::replace(shown.begin(), shown.end(), '\\', '/');
  const std::string folder = place.path.parent().str();
  // What stands at the top of the project may lie in the project's own folder.
  if (shown.empty()) return place.path.parent().is_root() || place.list.is_within(place.path.parent());
  return folder == shown || folder.ends_with("/" + shown);
}

}  // namespace

std::map<RelPath, std::vector<ManagedRow>> managed_trees(const TreeReader& tree,
                                                         const ReferenceGraph& graph) {
  std::map<RelPath, std::vector<ManagedRow>> out;
  std::map<RelPath, std::set<RelPath>> folders;  // in which each list has members
  std::set<std::pair<RelPath, RelPath>> known;
  for (const VirtualPlace& place : graph.virtual_places) {
    std::string shown = place.shown;
    std::replace(shown.begin(), shown.end(), '\\', '/');
    auto kind = !tree.find(place.path) ? ManagedRow::Kind::missing
                : is_mirrored(place)   ? ManagedRow::Kind::same
                                       : ManagedRow::Kind::elsewhere;
    out[place.list].push_back({place.path, shown, kind});
    folders[place.list].insert(place.path.parent());
    known.emplace(place.list, place.path);
  }
  for (const ManagedFinding& item : check_managed(tree, graph)) {
    if (item.finding.id != "unlisted") continue;
    for (const auto& [list, where] : folders) {
      bool is_beside = where.contains(item.path.parent()) && known.emplace(list, item.path).second;
      if (is_beside) out[list].push_back({item.path, "", ManagedRow::Kind::unlisted});
    }
  }
  for (auto& [list, rows] : out) {
    std::sort(rows.begin(), rows.end(),
              [](const ManagedRow& a, const ManagedRow& b) { return a.path < b.path; });
    rows.erase(std::unique(rows.begin(), rows.end(),
                           [](const ManagedRow& a, const ManagedRow& b) { return a.path == b.path; }),
               rows.end());
  }
  return out;
}

}  // namespace yc
