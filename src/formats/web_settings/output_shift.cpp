#include "formats/web_settings/output_shift.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc::web_settings {

namespace {

std::string shown(const RelPath& folder) {
  return folder.is_root() ? "the root" : folder.str();
}

}  // namespace

std::vector<Blocker> shifted_outputs(const TreeView& before, const TreeView& planned, const MoveSet& moves) {
  const TreeReader& tree = before.tree;
  const ReferenceGraph& after = planned.graph;
  std::vector<Blocker> out;
  for (const OutputFolder& old : before.graph.outputs) {
    if (!old.inferred) continue;
    RelPath settings = moves.map_file(old.settings);
    auto now = std::find_if(after.outputs.begin(), after.outputs.end(), [&](const OutputFolder& other) {
      return other.settings == settings && other.outputs.name() == old.outputs.name();
    });
    if (now == after.outputs.end() || now->sources == old.sources) continue;
    auto told =
        std::find_if(out.begin(), out.end(), [&](const Blocker& item) { return item.file == old.settings; });
    if (told != out.end()) continue;
    // A source whose output lay at one place below the output folder, and would lie at another.
    for (const RelPath& file : tree.files()) {
      std::string_view ending = file.extension();
      bool source = (ending == ".ts" || ending == ".tsx") && !file.str().ends_with(".d.ts") &&
                    file.is_within(old.sources);
      if (!source || tree.find(file)->ignored) continue;
      RelPath image = moves.map_file(file);
      bool asked = moves.moves(file) && file.below(old.sources) != image.below(now->sources) &&
                   image.parent() != file.parent();
      bool same = image.is_within(now->sources) && image.below(now->sources) == file.below(old.sources);
      if (same || (asked && moves.moves(file))) continue;
      Blocker item;
      item.bearing = Blocker::Bearing::stands_for_all;
      item.id = "output-shift";
      item.file = old.settings;
      item.text = old.outputs.str();
      item.reason = fmt::format(
          "is laid out like {}, the deepest folder of all sources; that would become {}, and the output of "
          "{} and others would go elsewhere",
          shown(old.sources), shown(now->sources), file.str());
      item.next =
          "set \"rootDir\" so that the layout stays, move to another place, or add --accept-unseen to have "
          "everything that names outputs follow";
      out.push_back(std::move(item));
      break;
    }
  }
  return out;
}

}  // namespace yc::web_settings
