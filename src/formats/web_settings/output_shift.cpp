#include "formats/web_settings/output_shift.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc::web_settings {

namespace {

std::string shown_shift(const RelPath& folder) {
  return folder.is_root() ? "the root" : folder.str();
}

bool is_compiled(const RelPath& file) {
  std::string_view ending = file.extension();
  bool is_source = ending == ".ts" || ending == ".tsx" || ending == ".mts" || ending == ".cts";
  return is_source && file.str().find(".d.") == std::string::npos;
}

RelPath common_folder(RelPath a, const RelPath& b) {
  while (!b.is_within(a)) a = a.parent();
  return a;
}

// A source outside of a folder that one in it imports: it is compiled with those.
std::vector<RelPath> drawn_in(const TreeReader& tree, const ReferenceGraph& graph, const RelPath& folder) {
  std::vector<RelPath> out;
  for (const Reference& reference : graph.references) {
    if (reference.role != Role::module || reference.construct.empty()) continue;
    const RelPath& user = graph.files.path(reference.construct.front().file);
    if (!is_compiled(user) || !user.is_within(folder)) continue;
    for (const Target& target : reference.targets) {
      const Entry* entry = target.kind == Target::Kind::tree ? tree.find(target.path) : nullptr;
      bool is_there = entry && entry->kind == EntryKind::file && !entry->ignored;
      if (is_there && is_compiled(target.path) && !target.path.is_within(folder)) out.push_back(target.path);
    }
  }
  return out;
}

RelPath with_imports(const TreeReader& tree, const ReferenceGraph& graph, const RelPath& folder) {
  RelPath out = folder;
  for (const RelPath& file : drawn_in(tree, graph, folder)) out = common_folder(out, file.parent());
  return out;
}

// A source outside of a folder that the settings list or that a pattern in them takes.
std::vector<RelPath> listed_outside(const ReferenceGraph& graph, const RelPath& settings,
                                    const RelPath& folder) {
  std::vector<RelPath> out;
  FileIndex file = graph.files.find(settings);
  for (const Reference& reference : graph.references) {
    bool lists = (reference.role == Role::source || reference.role == Role::pattern) && !reference.excludes &&
                 !reference.construct.empty() && reference.construct.front().file == file;
    for (const Target& target : lists ? reference.targets : std::vector<Target>()) {
      bool is_outside =
          target.kind == Target::Kind::tree && is_compiled(target.path) && !target.path.is_within(folder);
      if (is_outside) out.push_back(target.path);
    }
  }
  return out;
}

// A compiler that is told the folder of sources takes none from elsewhere (error TS6059).
std::optional<Blocker> out_of_sources(const TreeView& before, const TreeView& planned,
                                      const OutputFolder& old, const OutputFolder& now) {
  if (!drawn_in(before.tree, before.graph, old.sources).empty() ||
      !listed_outside(before.graph, old.settings, old.sources).empty())
    return std::nullopt;
  std::vector<RelPath> outside = drawn_in(planned.tree, planned.graph, now.sources);
  const char* how = "which they import";
  if (outside.empty()) {
    outside = listed_outside(planned.graph, now.settings, now.sources);
    how = "which these settings would list";
  }
  if (outside.empty()) return std::nullopt;
  Blocker item;
  item.bearing = Blocker::Bearing::stands_for_all;
  item.id = "output-shift";
  item.file = old.settings;
  item.text = old.sources.str();
  item.reason = fmt::format("is the folder of all sources (\"rootDir\"), and {}, {}, would lie outside of it",
                            outside.front().str(), how);
  item.next = "set \"rootDir\" to a folder that holds both, or choose a place in it";
  return item;
}

}  // namespace

std::vector<Blocker> shifted_outputs(const TreeView& before, const TreeView& planned, const MoveSet& moves) {
  const TreeReader& tree = before.tree;
  const ReferenceGraph& after = planned.graph;
  std::vector<Blocker> out;
  for (const OutputFolder& old : before.graph.outputs) {
    RelPath settings = moves.map_file(old.settings);
    auto now = std::find_if(after.outputs.begin(), after.outputs.end(), [&](const OutputFolder& other) {
      return other.settings == settings && other.outputs.name() == old.outputs.name();
    });
    if (now == after.outputs.end()) continue;
    auto told =
        std::find_if(out.begin(), out.end(), [&](const Blocker& item) { return item.file == old.settings; });
    if (told != out.end()) continue;
    if (!old.inferred) {
      if (auto item = out_of_sources(before, planned, old, *now)) out.push_back(std::move(*item));
      continue;
    }
    RelPath sources = with_imports(tree, before.graph, old.sources);
    RelPath sources_now = with_imports(planned.tree, after, now->sources);
    if (sources_now == sources) continue;
    // A source whose output lay at one place below the output folder, and would lie at another.
    for (const RelPath& file : tree.files()) {
      if (!is_compiled(file) || !file.is_within(sources) || tree.find(file)->ignored) continue;
      RelPath image = moves.map_file(file);
      bool asked = moves.moves(file) && file.below(sources) != image.below(sources_now) &&
                   image.parent() != file.parent();
      bool same = image.is_within(sources_now) && image.below(sources_now) == file.below(sources);
      if (same || (asked && moves.moves(file))) continue;
      Blocker item;
      item.bearing = Blocker::Bearing::stands_for_all;
      item.id = "output-shift";
      item.file = old.settings;
      item.text = old.outputs.str();
      item.reason = fmt::format(
          "is laid out like {}, the deepest folder of all sources; that would become {}, and the output of "
          "{} and others would go elsewhere",
          shown_shift(sources), shown_shift(sources_now), file.str());
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
