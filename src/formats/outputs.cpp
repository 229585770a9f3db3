#include "formats/outputs.h"

#include <algorithm>
#include <array>

namespace yc {

namespace {

struct Ending {
  std::string_view source, output;
};
constexpr std::array<Ending, 16> kMade = {{{".ts", ".js"},
                                           {".tsx", ".js"},
                                           {".jsx", ".js"},
                                           {".js", ".js"},
                                           {".mts", ".mjs"},
                                           {".mjs", ".mjs"},
                                           {".cts", ".cjs"},
                                           {".cjs", ".cjs"},
                                           {".ts", ".d.ts"},
                                           {".tsx", ".d.ts"},
                                           {".mts", ".d.mts"},
                                           {".cts", ".d.cts"},
                                           {".scss", ".css"},
                                           {".sass", ".css"},
                                           {".less", ".css"},
                                           {".tsx", ".jsx"}}};

bool is_there(const TreeReader& tree, const RelPath& path) {
  const Entry* entry = tree.find(path);
  return entry && entry->kind == EntryKind::file && !entry->ignored;
}

}  // namespace

std::optional<RelPath> source_of(const TreeReader& tree, const Scopes& scopes, const RelPath& output) {
  const std::string& text = output.str();
  for (const OutputFolder& folder : scopes.outputs) {
    if (!output.is_within(folder.outputs) || output == folder.outputs) continue;
    RelPath twin = folder.sources / output.below(folder.outputs);
    for (const Ending& ending : kMade) {
      if (!text.ends_with(ending.output)) continue;
      std::string stem = twin.str().substr(0, twin.str().size() - ending.output.size());
      RelPath source = RelPath::from_normal(stem + std::string(ending.source));
      if (source != output && is_there(tree, source)) return source;
    }
  }
  return std::nullopt;
}

std::vector<std::string> output_texts(const RewriteRequest& need, const std::string& old) {
  std::vector<std::string> out;
  const Target& target = need.reference.targets.front();
  const RelPath& source = need.wanted.front().path;
  auto old_place = RelPath::resolve(need.reference.base.folder, old);
  if (!old_place) return out;
  PathStyle style = PathStyle::of(old);
  for (const OutputFolder& folder : need.graph.outputs) {
    if (!old_place->is_within(folder.outputs)) continue;
    // An output folder that is not there yet goes with the folder that it would be in.
    RelPath outputs = folder.outputs;
    for (RelPath up = folder.outputs; !up.is_root(); up = up.parent()) {
      bool holds = need.tree.is_folder(up) && !need.tree.children(up).empty();
      auto image = holds ? need.moves.map_folder(up) : std::nullopt;
      if (!image) continue;
      outputs = *image / folder.outputs.below(up);
      break;
    }
    std::string ending = ending_of(old);
    if (old.ends_with(".d.ts") || old.ends_with(".d.mts") || old.ends_with(".d.cts")) ending = ".d" + ending;
    bool is_folder = ending.empty() && need.tree.is_folder(target.path);
    // Any folder may come to be the deepest one of all sources.
    RelPath first = need.moves.map_folder(folder.sources).value_or(folder.sources);
    std::vector<RelPath> roots = {first};
    for (RelPath up = source.parent();; up = up.parent()) {
      if (up != first) roots.push_back(up);
      if (up.is_root()) break;
    }
    for (const RelPath& root : roots) {
      if (!source.is_within(root) || source == root) continue;
      std::string below(source.below(root));
      if (!is_folder) below = below.substr(0, below.size() - ending_of(below).size()) + ending;
      out.push_back(style.apply(relative_text(need.new_base, outputs / below)));
    }
  }
  return out;
}

}  // namespace yc
