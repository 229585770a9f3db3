#include "formats/property_lists/group_children.h"

#include <algorithm>
#include <cctype>

#include "base/hash.h"
#include "formats/property_lists/project_objects.h"

namespace yc::plist {

namespace {

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

namespace {

// The groups of one project, of which some stand for folders.
class Groups {
 public:
  explicit Groups(const RewriteRequest& need)
      : need_(need),
        file_(need.reference.construct.back().file),
        project_(need.graph.files.path(file_)),
        base_(need.reference.base.folder) {
    auto bytes = need.tree.read(project_);
    if (!bytes) return;
    bytes_ = *bytes;
    parsed_ = parse(*bytes_);
    if (!parsed_.value) return;
    objects_ = read_objects(*parsed_.value, *bytes_, file_);
    for (const auto& [identifier, node] : objects_.nodes) {
      const Value* path = node.object->get("path");
      if (path && path->span.begin == need.reference.construct.back().offset) own_ = &node;
    }
  }

  std::vector<Proposal> ways() const {
    bool is_file = own_ && !own_->object->get("children") && own_->kind == "PBXFileReference";
    auto old_group = is_file ? objects_.nodes.find(own_->group) : objects_.nodes.end();
    if (old_group == objects_.nodes.end() || !is_plain(*own_) || !new_folder_of(old_group->second)) return {};
    RelPath folder = need_.wanted[0].path.parent();
    if (const Node* group = group_of(folder, own_->group)) {
      auto way = leave_group(*own_, need_.wanted[0].path);
      auto line = line_of_child(*own_);
      if (!way || !line) return {};
      std::uint32_t at = place_among(*bytes_, *group->object->get("children"), objects_, shown(*own_));
      way->edits.push_back({project_, {at, at}, *line, own_->identifier});
      return {std::move(*way)};
    }
    // The group's folder may go along as a whole.
    if (new_folder_of(old_group->second) == folder) return {};
    auto way = leave_group(*own_, need_.wanted[0].path);
    return way && add_groups(folder, *way) ? std::vector<Proposal>{std::move(*way)} : std::vector<Proposal>();
  }

 private:
  static std::string shown(const Node& node) {
    return node.name.empty() ? node.object->get_text("path") : node.name;
  }
  // Its path is no more than its name.
  static bool is_plain(const Node& node) {
    return node.object->get("path") && node.object->get_text("path").find('/') == std::string::npos;
  }

  // The folder that a group stands for; one without a folder has that of the group around it, and is not
  // meant.
  std::optional<RelPath> folder_of(const Node& group) const {
    const Value* path = group.object->get("path");
    if ((!path && !group.group.empty()) || group.is_outside) return std::nullopt;
    Place place = group.path.empty() ? Place{Space::tree, base_} : place_of(base_, group.path.text());
    return place.space == Space::tree ? std::optional(place.path) : std::nullopt;
  }
  std::optional<RelPath> new_folder_of(const Node& group) const {
    auto folder = folder_of(group);
    return folder ? need_.moves.map_folder(*folder) : std::nullopt;
  }
  const Node* group_of(const RelPath& new_folder, const std::string& but = "") const {
    const Node* out = nullptr;
    for (const auto& [identifier, node] : objects_.nodes) {
      auto folder = node.kind == "PBXGroup" ? new_folder_of(node) : std::nullopt;
      if (folder == new_folder && identifier != but && node.object->get("children")) out = &node;
    }
    return out;
  }

  std::optional<std::string> line_of_child(const Node& node) const {
    const Node& group = objects_.nodes.at(node.group);
    auto line = line_of(*bytes_, *group.object->get("children"), node.identifier);
    return line ? std::optional(bytes_->substr(line->begin, line->size())) : std::nullopt;
  }

  // Takes a file out of its group, and has it called by its new name.
  std::optional<Proposal> leave_group(const Node& node, const RelPath& now) const {
    const Node& group = objects_.nodes.at(node.group);
    auto line = line_of(*bytes_, *group.object->get("children"), node.identifier);
    if (!line) return std::nullopt;
    Proposal way;
    way.edits.push_back({project_, *line, ""});
    std::string name(now.name());
    const Value& path = *node.object->get("path");
    if (path.text != name)
      way.edits.push_back({project_, path.span, written(name, path.quoted ? kQuoted : kBare)});
    return way;
  }

  // All files of this project that go to a folder, each out of a group that is a folder, as lines of
  // children. Each of them proposes the same new group, so that it is made once.
  std::string lines_going_to(const RelPath& folder) const {
    std::map<std::string, std::string> lines;  // by the names that are shown
    for (const auto& [identifier, node] : objects_.nodes) {
      auto group = objects_.nodes.find(node.group);
      bool may_go = node.kind == "PBXFileReference" && node.is_placed && !node.is_outside && is_plain(node) &&
                    group != objects_.nodes.end() && new_folder_of(group->second);
      Place place = may_go ? place_of(base_, node.path.text()) : Place{Space::outside, {}};
      if (place.space != Space::tree || !need_.tree.is_file(place.path)) continue;
      RelPath now = need_.moves.map_file(place.path);
      auto line = now.parent() == folder ? line_of_child(node) : std::nullopt;
      if (line) lines[shown(node)] += *line;
    }
    std::string out;
    for (const auto& [name, line] : lines) out += line;
    return out;
  }

  // Groups for a folder and those above it, down from one that has a group.
  bool add_groups(const RelPath& folder, Proposal& way) const {
    std::vector<RelPath> missing = {folder};
    const Node* above = nullptr;
    while (!above && !missing.back().is_root()) {
      above = group_of(missing.back().parent());
      if (!above) missing.push_back(missing.back().parent());
    }
    // The top group stands for the project's folder whether or not groups are folders.
    if (!above || above->group.empty() || missing.back().is_root()) return false;
    std::string children = lines_going_to(folder);
    std::size_t indent_end = children.find_first_not_of(" \t");
    if (children.empty() || indent_end == std::string::npos) return false;
    std::string indent = children.substr(0, indent_end), definitions, line_end = "\n";
    if (children.ends_with("\r\n")) line_end = "\r\n";
    std::uint32_t definition_at = behind(above->object->span);
    std::string identifier, name;
    for (const RelPath& one : missing) {
      name = one.name();
      identifier = identifier_for(one);
      std::string outer = indent.substr(0, indent.size() - std::min<std::size_t>(2, indent.size()));
      std::string inner = indent.substr(0, indent.size() - std::min<std::size_t>(1, indent.size()));
      std::string text = written(name, kBare);
      definitions += outer + identifier + " /* " + name + " */ = {" + line_end + inner + "isa = PBXGroup;" +
                     line_end + inner + "children = (" + line_end + children + inner + ");" + line_end +
                     inner + "path = " + text + ";" + line_end + inner + "sourceTree = \"<group>\";" +
                     line_end + outer + "};" + line_end;
      children = indent + identifier + " /* " + name + " */," + line_end;
      if (objects_.objects.contains(identifier)) return false;
    }
    std::uint32_t at = place_among(*bytes_, *above->object->get("children"), objects_, name);
    way.edits.push_back({project_, {at, at}, children, identifier});
    way.edits.push_back({project_, {definition_at, definition_at}, definitions, identifier});
    return true;
  }

  std::uint32_t behind(Span object) const {
    std::size_t end = bytes_->find('\n', object.end);
    return end == std::string::npos ? object.end : static_cast<std::uint32_t>(end + 1);
  }

  std::string identifier_for(const RelPath& folder) const {
    std::string out = content_hash(project_.str() + "\n" + folder.str()).substr(0, 24);
    std::transform(out.begin(), out.end(), out.begin(), [](unsigned char c) { return std::toupper(c); });
    return out;
  }

  const RewriteRequest& need_;
  FileIndex file_;
  const RelPath& project_;
  RelPath base_;
  Bytes bytes_;
  Parsed parsed_;
  ProjectObjects objects_;
  const Node* own_ = nullptr;
};

}  // namespace

std::vector<Proposal> change_group(const RewriteRequest& need) {
  if (need.reference.construct.empty() || need.wanted.size() != 1 || need.reference.text.pieces().empty())
    return {};
  return Groups(need).ways();
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
