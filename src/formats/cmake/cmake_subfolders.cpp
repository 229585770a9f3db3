#include "formats/cmake/cmake_subfolders.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "formats/cmake/cmake_syntax.h"

namespace yc::cmake {

namespace {

// The command of such a reference, if it names no folder of the build tree.
std::optional<Command> open_command(const TreeReader& tree, const ReferenceGraph& graph,
                                    const Reference& reference) {
  if (reference.role != Role::subfolder || reference.construct.empty() ||
      reference.construct.back().file == kNoFile)
    return std::nullopt;
  auto bytes = tree.read(graph.files.path(reference.construct.back().file));
  if (!bytes) return std::nullopt;
  for (Command& command : parse(**bytes).commands) {
    if (command.span.begin != reference.construct.back().offset) continue;
    if (command.name != "add_subdirectory" || command.arguments.empty()) return std::nullopt;
    if (command.arguments.size() > 1) {
      Span second = command.arguments[1].content;
      std::string text = (*bytes)->substr(second.begin, second.size());
      if (text != "EXCLUDE_FROM_ALL" && text != "SYSTEM") return std::nullopt;
    }
    return std::move(command);
  }
  return std::nullopt;
}

}  // namespace

std::vector<Proposal> with_build_folder(const Format& format, const RewriteRequest& need) {
  if (need.reference.role != Role::subfolder || need.wanted.size() != 1) return {};
  RelPath folder = need.wanted[0].path.parent();
  if (need.wanted[0].path.is_root() || folder.is_within(need.new_base)) return {};
  auto command = open_command(need.tree, need.graph, need.reference);
  const std::vector<Piece>& pieces = need.reference.text.pieces();
  if (!command || pieces.empty() || !pieces[0].has_origin()) return {};
  const Argument& argument = command->arguments[0];
  if (argument.content != pieces[0].span || pieces[0].file != need.reference.construct.back().file) return {};
  std::string path = relative_text(need.new_base, folder);
  auto text = format.write(path, pieces[0].style);
  if (!text) return {};
  std::string quote = argument.kind == Argument::Kind::quoted ? "\"" : "";
  const RelPath& file = need.graph.files.path(pieces[0].file);
  std::string both = quote + *text + quote + " " + quote + *text + quote;
  return {{{Edit{file, argument.span, both}}, ""}};
}

std::vector<Blocker> lacking_build_folders(const TreeView& before, const TreeView& planned,
                                           const MoveSet& moves, const Format& format) {
  auto lacking = [&](const TreeView& view, const Reference& reference) {
    return &format_at(reference.format) == &format && reference.role == Role::subfolder &&
           reference.targets.size() == 1 && reference.targets[0].kind == Target::Kind::tree &&
           !reference.targets[0].path.is_within(reference.base.folder) &&
           open_command(view.tree, view.graph, reference).has_value();
  };
  std::set<RelPath> known;  // scripts that could not be run before, either
  for (const Reference& reference : before.graph.references) {
    if (lacking(before, reference))
      known.insert(moves.map_file(before.graph.files.path(reference.construct.back().file)));
  }
  std::vector<Blocker> out;
  for (const Reference& reference : planned.graph.references) {
    if (!lacking(planned, reference)) continue;
    const RelPath& script = planned.graph.files.path(reference.construct.back().file);
    if (!known.insert(script).second) continue;
    out.push_back(
        {"build-folder", script, standing_of(reference).span, reference.targets[0].path.parent().str(),
         "is not below the folder of the script that adds it, which must then name its place in the build "
         "tree, too",
         "add that to the command first, or move the script along"});
  }
  return out;
}

}  // namespace yc::cmake
