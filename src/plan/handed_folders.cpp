#include "plan/handed_folders.h"

#include <fmt/format.h>

#include <algorithm>
#include <optional>
#include <set>
#include <unordered_set>

#include "formats/format.h"
#include "formats/unread_languages.h"
#include "words/plan.h"

namespace yc {

namespace {

// What moves and is neither code nor a document.
std::vector<RelPath> data_that_moves(const MoveSet& moves) {
  std::vector<RelPath> out;
  for (const Move& move : moves.files()) {
    bool is_read =
        is_source_code(move.from) || words::plan::document_endings().contains(move.from.extension());
    if (!is_read) out.push_back(move.from);
  }
  return out;
}

// Of `data` what nothing names by itself.
std::vector<RelPath> unnamed(const std::vector<RelPath>& data, const ReferenceGraph& graph) {
  std::unordered_set<RelPath> named;
  for (const Reference& reference : graph.references) {
    for (const Target& target : reference.targets) named.insert(target.path);
  }
  std::vector<RelPath> out = data;
  std::erase_if(out, [&](const RelPath& path) { return named.contains(path); });
  return out;
}

// Of `data` what no source names: a program that is told a folder says itself what it opens there.
std::vector<RelPath> unnamed_by_sources(const std::vector<RelPath>& data, const ReferenceGraph& graph) {
  std::unordered_set<RelPath> named;
  for (const Reference& reference : graph.references) {
    FileIndex file = standing_of(reference).file;
    if (file == kNoFile || !is_source_code(graph.files.path(file))) continue;
    for (const Target& target : reference.targets) named.insert(target.path);
  }
  std::vector<RelPath> out = data;
  std::erase_if(out, [&](const RelPath& path) { return named.contains(path); });
  return out;
}

// Whether a command of a script is given a folder, and it is not that of the script itself.
bool is_handed(const ReferenceGraph& graph, const Reference& reference, const RelPath& folder) {
  if (reference.role != Role::argument || reference.is_pattern() || reference.excludes) return false;
  if (folder.is_root() || !stands_in_commands(reference)) return false;
  return !graph.files.path(standing_of(reference).file).is_within(folder);
}

// Whether a path below a folder does not keep its place in it.
bool leaves(const RelPath& path, const RelPath& folder, const MoveSet& moves) {
  if (path == folder || !path.is_within(folder)) return false;
  RelPath image = moves.map_folder(folder).value_or(folder), now = moves.map_file(path);
  return !now.is_within(image) || now.below(image) != path.below(folder);
}

// Tells of those of `data` that leave a folder which a program is given; nothing if none does.
std::optional<Blocker> changed_folder(const RelPath& folder, const std::vector<RelPath>& data,
                                      const MoveSet& moves) {
  auto is_leaving = [&](const RelPath& path) { return leaves(path, folder, moves); };
  auto first = std::find_if(data.begin(), data.end(), is_leaving);
  if (first == data.end()) return std::nullopt;
  auto more = std::count_if(data.begin(), data.end(), is_leaving) - 1;
  Blocker item;
  item.id = "handed-folder";
  item.reason = fmt::format("hands {} to a program, which may open {}{} there", folder.str(), first->str(),
                            more > 0 ? fmt::format(" and {} more", more) : "");
  item.next =
      "let the project's own build judge (… -- BUILD COMMAND), settle it for good if no program looks for "
      "names there (--settle FILE:LINE), or add --accept-unseen to move anyway, unproved";
  return item;
}

// The same of a folder that a command copies or packs, if what leaves it goes to no other folder of the
// command.
std::optional<Blocker> copied_no_more(const ReferenceGraph& graph, const HandedFolder& handed,
                                      const MoveSet& moves) {
  const RelPath& folder = handed.folder;
  std::vector<RelPath> lost;
  for (const Move& move : moves.files()) {
    if (move.from.is_within(folder)) lost.push_back(move.from);
  }
  if (lost.empty()) return std::nullopt;
  std::vector<RelPath> taken = {moves.map_folder(folder).value_or(folder)};
  for (const HandedFolder& other : graph.handed) {
    if (other.command == handed.command)
      taken.push_back(moves.map_folder(other.folder).value_or(other.folder));
  }
  std::erase_if(lost, [&](const RelPath& path) {
    return std::any_of(taken.begin(), taken.end(),
                       [&](const RelPath& image) { return moves.map_file(path).is_within(image); });
  });
  if (lost.empty()) return std::nullopt;
  Blocker item;
  item.id = "handed-folder";
  item.reason =
      fmt::format("copies or packs {}, and {}{} would not be in it any more", folder.str(),
                  lost.front().str(), lost.size() > 1 ? fmt::format(" and {} more", lost.size() - 1) : "");
  item.next =
      "let the project's own build judge (… -- BUILD COMMAND), settle it for good if nobody misses that "
      "there "
      "(--settle FILE:LINE), or add --accept-unseen to move anyway, unproved";
  return item;
}

// Tells of those of `data` that leave a folder which a script has compilers define a macro as.
void note_macros(const TreeReader& tree, const ReferenceGraph& graph, const std::vector<RelPath>& data,
                 const MoveSet& moves, std::set<RelPath>& seen, std::vector<Blocker>& out) {
  std::optional<std::vector<RelPath>> left;
  for (const Context& context : graph.contexts) {
    for (const PathMacro& macro : context.macros) {
      const Base& base = macro.definition.base;
      Place place = place_of(base.folder, macro.value.text(), base.space);
      bool is_folder = place.space == Space::tree && !place.path.is_root() && tree.is_folder(place.path);
      Passage at = macro.value.first_origin();
      if (!is_folder || at.file == kNoFile || seen.contains(place.path)) continue;
      if (!left) left = unnamed_by_sources(data, graph);
      auto item = changed_folder(place.path, *left, moves);
      if (!item) continue;
      seen.insert(place.path);
      item->file = graph.files.path(at.file);
      item->span = at.span;
      item->text = macro.value.text();
      out.push_back(std::move(*item));
    }
  }
}

}  // namespace

bool stands_in_commands(const Reference& reference) {
  std::string_view format = format_at(reference.format).name();
  return words::plan::formats_of_commands().contains(format.substr(0, format.find(' ')));
}

std::vector<Blocker> changed_handed_folders(const TreeReader& tree, const ReferenceGraph& graph,
                                            const MoveSet& moves) {
  std::vector<Blocker> out;
  std::vector<RelPath> data = data_that_moves(moves);
  std::set<RelPath> seen;
  // A program of the project opens what it likes, whatever else names that.
  for (const HandedFolder& handed : graph.handed) {
    const RelPath& folder = handed.folder;
    auto item = handed.is_copied ? copied_no_more(graph, handed, moves) : changed_folder(folder, data, moves);
    if (!item || (!handed.is_copied && !seen.insert(folder).second)) continue;
    item->file = graph.files.path(handed.at.file);
    item->span = handed.at.span;
    item->text = folder.name();
    out.push_back(std::move(*item));
  }
  if (!data.empty()) note_macros(tree, graph, data, moves, seen, out);
  data = unnamed(data, graph);
  if (data.empty()) return out;
  for (const Reference& reference : graph.references) {
    for (const Target& target : reference.targets) {
      const RelPath& folder = target.path;
      if (target.kind != Target::Kind::tree || !is_handed(graph, reference, folder)) continue;
      if (!tree.is_folder(folder) || !seen.insert(folder).second) continue;
      auto item = changed_folder(folder, data, moves);
      if (!item) continue;
      Standing at = standing_of(reference);
      item->file = graph.files.path(at.file);
      item->span = at.span;
      item->text = reference.text.text();
      out.push_back(std::move(*item));
    }
  }
  return out;
}

}  // namespace yc
