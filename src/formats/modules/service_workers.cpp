#include "formats/modules/service_workers.h"

namespace yc::modules {

namespace {

constexpr std::string_view kCall = "serviceWorker.register(";

// Whether a script registers what it names at a place.
bool is_registered_at(const TreeReader& tree, const RelPath& script, const Span& place) {
  auto bytes = tree.read(script);
  if (!bytes || place.begin > (*bytes)->size()) return false;
  std::string_view before = std::string_view(**bytes).substr(0, place.begin);
  while (!before.empty() && std::string_view(" \n\t\"'`/.").find(before.back()) != std::string_view::npos)
    before.remove_suffix(1);
  return before.ends_with(kCall);
}

}  // namespace

std::vector<Blocker> moved_service_workers(const ReadTree& before, const MoveSet& moves) {
  std::vector<Blocker> out;
  for (const Reference& reference : before.graph.references) {
    Standing at = standing_of(reference);
    if (reference.role != Role::module || reference.targets.empty() || at.file == kNoFile) continue;
    const RelPath& worker = reference.targets.front().path;
    auto folder = moves.map_folder(worker.parent());
    bool stays = !moves.moves(worker) || (folder && moves.map_file(worker).parent() == *folder);
    const RelPath& script = before.graph.files.path(at.file);
    if (stays || !is_registered_at(before.tree, script, at.span)) continue;
    out.push_back({"serves-others", script, at.span, reference.text.text(),
                   "registers " + worker.str() +
                       ", which serves what lies in its folder and would serve that of " +
                       moves.map_file(worker).str() + " then",
                   "leave it where it is, or add --accept-unseen if that is meant"});
  }
  return out;
}

}  // namespace yc::modules
