#include "plan/handed_folders.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>
#include <unordered_set>

#include "formats/format.h"
#include "formats/unread_languages.h"
#include "words/plan.h"

namespace yc {

namespace {

// What moves and is neither code nor a document, and that nothing names by itself.
std::vector<RelPath> unnamed_data(const ReferenceGraph& graph, const MoveSet& moves) {
  std::unordered_set<RelPath> named;
  for (const Reference& reference : graph.references) {
    for (const Target& target : reference.targets) named.insert(target.path);
  }
  std::vector<RelPath> out;
  for (const Move& move : moves.files()) {
    bool is_read =
        is_source_code(move.from) || words::plan::document_endings().contains(move.from.extension());
    if (!is_read && !named.contains(move.from)) out.push_back(move.from);
  }
  return out;
}

// Whether a command of a script is given a folder, and it is not that of the script itself.
bool is_handed(const ReferenceGraph& graph, const Reference& reference, const RelPath& folder) {
  if (reference.role != Role::argument || reference.is_pattern() || reference.excludes) return false;
  std::string_view format = format_at(reference.format).name();
  bool is_command = words::plan::formats_of_commands().contains(format.substr(0, format.find(' ')));
  if (folder.is_root() || !is_command) return false;
  return !graph.files.path(standing_of(reference).file).is_within(folder);
}

}  // namespace

std::vector<Blocker> changed_handed_folders(const TreeReader& tree, const ReferenceGraph& graph,
                                            const MoveSet& moves) {
  std::vector<Blocker> out;
  std::vector<RelPath> data = unnamed_data(graph, moves);
  if (data.empty()) return out;
  std::set<RelPath> told;
  for (const Reference& reference : graph.references) {
    for (const Target& target : reference.targets) {
      const RelPath& folder = target.path;
      if (target.kind != Target::Kind::tree || !is_handed(graph, reference, folder)) continue;
      RelPath image = moves.map_folder(folder).value_or(folder);
      auto leaves = [&](const RelPath& path) {
        if (path == folder || !path.is_within(folder)) return false;
        RelPath now = moves.map_file(path);
        return !now.is_within(image) || now.below(image) != path.below(folder);
      };
      auto first = std::find_if(data.begin(), data.end(), leaves);
      if (first == data.end() || !tree.is_folder(folder) || !told.insert(folder).second) continue;
      auto more = std::count_if(data.begin(), data.end(), leaves) - 1;
      Standing at = standing_of(reference);
      Blocker item;
      item.id = "handed-folder";
      item.file = graph.files.path(at.file);
      item.span = at.span;
      item.text = reference.text.text();
      item.reason = fmt::format("hands {} to a program, which may open {}{} there", folder.str(),
                                first->str(), more > 0 ? fmt::format(" and {} more", more) : "");
      item.next =
          "let the project's own build judge (… -- BUILD COMMAND), settle it for good if no program looks "
          "for "
          "names there (--settle FILE:LINE), or add --accept-unseen to move anyway, unproved";
      out.push_back(std::move(item));
    }
  }
  return out;
}

}  // namespace yc
