#include "formats/property_lists/group_children.h"

#include <algorithm>

#include "formats/property_lists/project_objects.h"

namespace yc::plist {

namespace {

struct Group {
  const Node* node = nullptr;
  RelPath folder;  // after the move
};

// The line of a child with its comma and what stands behind it.
std::optional<Span> line_of(std::string_view bytes, const Value& children, const std::string& identifier) {
  for (const Value& child : children.elements) {
    if (child.text != identifier) continue;
    std::uint32_t begin = child.span.begin - (child.quoted ? 1 : 0);
    while (begin > 0 && (bytes[begin - 1] == ' ' || bytes[begin - 1] == '\t')) --begin;
    std::size_t end = bytes.find('\n', child.span.end);
    bool alone = begin > 0 && bytes[begin - 1] == '\n' && end != std::string_view::npos &&
                 end < children.span.end &&
                 std::string_view(bytes).substr(child.span.end, end - child.span.end).find(',') !=
                     std::string_view::npos;
    return alone ? std::optional(Span{begin, static_cast<std::uint32_t>(end + 1)}) : std::nullopt;
  }
  return std::nullopt;
}

// Where a new child is put: before the bracket that closes the children, or where the order of their names
// asks for it.
std::uint32_t place_among(std::string_view bytes, const Value& children, const ProjectObjects& objects,
                          const std::string& name) {
  auto name_of = [&](const Value& child) {
    auto node = objects.nodes.find(child.text);
    if (node == objects.nodes.end()) return std::string();
    if (!node->second.name.empty()) return node->second.name;
    std::string path = node->second.object->get_text("path");
    return path.substr(path.rfind('/') == std::string::npos ? 0 : path.rfind('/') + 1);
  };
  std::vector<std::string> names;
  for (const Value& child : children.elements) names.push_back(name_of(child));
  auto line_begin = [&](std::uint32_t at) {
    while (at > 0 && (bytes[at - 1] == ' ' || bytes[at - 1] == '\t')) --at;
    return at;
  };
  if (names.size() > 1 && std::is_sorted(names.begin(), names.end())) {
    auto next = std::upper_bound(names.begin(), names.end(), name);
    if (next != names.end())
      return line_begin(children.elements[static_cast<std::size_t>(next - names.begin())].span.begin);
  }
  return line_begin(children.span.end - 1);
}

}  // namespace

std::vector<Proposal> change_group(const RewriteRequest& need) {
  const Reference& reference = need.reference;
  if (reference.construct.empty() || need.wanted.size() != 1 || reference.text.pieces().empty()) return {};
  FileIndex file = reference.construct.back().file;
  const RelPath& project = need.graph.files.path(file);
  auto bytes = need.tree.read(project);
  Parsed parsed = bytes ? parse(**bytes) : Parsed();
  if (!parsed.value) return {};
  ProjectObjects objects = read_objects(*parsed.value, **bytes, file);
  const Node* own = nullptr;
  for (const auto& [identifier, node] : objects.nodes) {
    const Value* path = node.object->get("path");
    if (path && path->span.begin == reference.construct.back().offset) own = &node;
  }
  if (!own || own->object->get("children") || own->kind != "PBXFileReference") return {};
  RelPath new_folder = need.wanted[0].path.parent();
  auto folder_of = [&](const Node& group) -> std::optional<RelPath> {
    // A group without a folder has that of the group around it, and is not meant.
    const Value* path = group.object->get("path");
    bool top = group.group.empty();
    if ((!path && !top) || group.is_outside) return std::nullopt;
    Place place = group.path.empty() ? Place{Space::tree, reference.base.folder}
                                     : place_of(reference.base.folder, group.path.text());
    if (place.space != Space::tree) return std::nullopt;
    return need.moves.map_folder(place.path);
  };
  auto old_group = objects.nodes.find(own->group);
  if (old_group == objects.nodes.end()) return {};
  auto old_folder = folder_of(old_group->second);
  // A group that is no folder is left alone; so is a path with folders in it.
  if (!old_folder || own->object->get_text("path").find('/') != std::string::npos) return {};
  const Node* new_group = nullptr;
  for (const auto& [identifier, node] : objects.nodes) {
    auto folder = node.kind == "PBXGroup" ? folder_of(node) : std::nullopt;
    if (folder == new_folder && identifier != own->group && node.object->get("children")) new_group = &node;
  }
  if (!new_group) return {};
  const Value& from = *old_group->second.object->get("children");
  const Value& to = *new_group->object->get("children");
  auto line = line_of(**bytes, from, own->identifier);
  if (!line) return {};
  std::string text = (*bytes)->substr(line->begin, line->size());
  std::string name = own->name.empty() ? own->object->get_text("path") : own->name;
  std::uint32_t at = place_among(**bytes, to, objects, name);
  Proposal way;
  way.edits.push_back({project, *line, ""});
  way.edits.push_back({project, {at, at}, text, own->identifier});
  std::string base_name(need.wanted[0].path.name());
  const Value& path = *own->object->get("path");
  if (path.text != base_name)
    way.edits.push_back({project, path.span, written(base_name, path.quoted ? kQuoted : kBare)});
  return {way};
}

std::vector<Proposal> follow_shown_names(const ClaimedTree& before, const MoveSet& moves) {
  const TreeReader& tree = before.tree;
  std::vector<Proposal> out;
  for (const RelPath& project : before.files) {
    const Entry* entry = tree.find(project);
    if (project.name() != "project.pbxproj" || entry->kind != EntryKind::file || entry->guarded ||
        entry->ignored)
      continue;
    auto bytes = tree.read(project);
    Parsed parsed = bytes ? parse(**bytes) : Parsed();
    if (!parsed.value) continue;
    ProjectObjects objects = read_objects(*parsed.value, **bytes, 0);
    Proposal way;
    for (const auto& [identifier, node] : objects.nodes) {
      const Value* shown = node.object->get("name");
      if (!shown || !node.is_placed || node.is_outside) continue;
      Place place = place_of(bundle_base(project).folder, node.path.text());
      if (place.space != Space::tree || !tree.find(place.path)) continue;
      auto now = tree.is_folder(place.path) ? moves.map_folder(place.path) : moves.map_file(place.path);
      if (!now || shown->text != place.path.name() || now->name() == place.path.name()) continue;
      way.edits.push_back(
          {project, shown->span, written(std::string(now->name()), shown->quoted ? kQuoted : kBare)});
    }
    if (!way.edits.empty()) out.push_back(std::move(way));
  }
  return out;
}

}  // namespace yc::plist
