#include "formats/msbuild/outside_places.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "formats/msbuild/project_files.h"
#include "formats/outside_paths.h"
#include "formats/xml/xml_places.h"

namespace yc::msbuild {

namespace {

// Relative to `old_base` before and to `new_base` after.
Proposal respelled(const TreeReader& tree, const RelPath& file, const RelPath& old_base,
                   const RelPath& new_base) {
  Proposal way;
  auto bytes = tree.is_editable(file) ? tree.read(file) : Result<Bytes>(Error{});
  auto elements = bytes ? xml::elements(**bytes) : std::nullopt;
  if (!elements) return way;
  auto look = [&](Span span) {
    std::string_view text = std::string_view(**bytes).substr(span.begin, span.size());
    for (std::size_t at = 0; at < text.size();) {
      std::size_t end = std::min(text.find_first_of(";,\n", at), text.size());
      std::size_t begin = text.find_first_not_of(" \t\r", at);
      std::size_t stop = begin < end ? text.find_last_not_of(" \t\r", end - 1) + 1 : end;
      at = end + 1;
      if (begin >= end) continue;
      auto spelled = outside_path(old_base, new_base, text.substr(begin, stop - begin));
      if (!spelled) continue;
      way.edits.push_back(
          {file,
           {span.begin + static_cast<std::uint32_t>(begin), span.begin + static_cast<std::uint32_t>(stop)},
           std::move(*spelled)});
    }
  };
  for (const xml::Element& element : *elements) {
    for (const xml::Attribute& attribute : element.attributes) look(attribute.span);
    if (element.text_span.size() > 0) look(element.text_span);
  }
  return way;
}

struct Imported {
  RelPath file;
  std::vector<RelPath> projects;  // that import it
};

// Files that projects which move import, by their names.
std::vector<Imported> imported_by_moved(const ClaimedTree& before, const MoveSet& moves) {
  const TreeReader& tree = before.tree;
  std::vector<RelPath> moved;
  for (const Move& move : moves.files()) {
    if (is_project(move.from)) moved.push_back(move.from);
  }
  std::vector<Imported> out;
  if (moved.empty()) return out;
  auto mentions = [&](const RelPath& project, std::string_view name) {
    auto bytes = tree.read(project);
    return bytes && (*bytes)->find(name) != std::string::npos;
  };
  for (const RelPath& path : before.files) {
    if (!is_imported(path) || !tree.is_editable(path)) continue;
    auto bytes = tree.read(path);
    bool climbs = bytes && ((*bytes)->find("..\\..") != std::string::npos ||
                            (*bytes)->find("../..") != std::string::npos);
    if (!climbs || std::none_of(moved.begin(), moved.end(),
                                [&](const RelPath& project) { return mentions(project, path.name()); }))
      continue;
    Imported one{path, {}};
    for (const RelPath& project : before.files) {
      if (is_project(project) && mentions(project, path.name())) one.projects.push_back(project);
    }
    out.push_back(std::move(one));
  }
  return out;
}

// How deep the folders of the projects are, before and after.
std::set<std::pair<std::size_t, std::size_t>> depths(const Imported& one, const MoveSet& moves) {
  std::set<std::pair<std::size_t, std::size_t>> out;
  for (const RelPath& project : one.projects) {
    RelPath before = project.parent(), after = moves.map_file(project).parent();
    out.emplace(before.components().size(), after.components().size());
  }
  return out;
}

}  // namespace

std::vector<Proposal> follow_outside(const ClaimedTree& before, const MoveSet& moves) {
  std::vector<Proposal> out;
  auto add = [&](const RelPath& file, const RelPath& project) {
    Proposal way = respelled(before.tree, file, project.parent(), moves.map_file(project).parent());
    if (!way.edits.empty()) out.push_back(std::move(way));
  };
  for (const Move& move : moves.files()) {
    if (move.from.extension().ends_with("proj")) add(move.from, move.from);
  }
  for (const Imported& one : imported_by_moved(before, moves)) {
    if (depths(one, moves).size() == 1) add(one.file, one.projects.front());
  }
  return out;
}

std::vector<Notice> torn_outside(const ClaimedTree& before, const MoveSet& moves) {
  std::vector<Notice> out;
  for (const Imported& one : imported_by_moved(before, moves)) {
    if (depths(one, moves).size() == 1) continue;
    for (const RelPath& project : one.projects) {
      RelPath now = moves.map_file(project);
      Proposal way = respelled(before.tree, one.file, project.parent(), now.parent());
      if (way.edits.empty()) continue;
      out.push_back({"outside-root", one.file, way.edits.front().span, true,
                     fmt::format("names a path outside of the tree, which {} no longer finds from {}, where "
                                 "it goes, while other projects do",
                                 project.str(), now.parent().str())});
      break;
    }
  }
  return out;
}

}  // namespace yc::msbuild
