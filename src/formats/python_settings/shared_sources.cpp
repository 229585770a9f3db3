#include "formats/python_settings/shared_sources.h"

#include <algorithm>
#include <map>

#include "base/text.h"
#include "formats/values/toml_edits.h"
#include "formats/values/values.h"

namespace yc::python_settings {

namespace {

using Change = SharedDefinitions::Change;
using Keys = std::vector<std::string>;

constexpr std::string_view kProject = "pyproject.toml";

std::string text_of(const TreeReader& tree, const RelPath& path) {
  auto bytes = tree.is_file(path) ? tree.read(path) : Result<Bytes>(Error{});
  return bytes ? **bytes : std::string();
}

// As names are compared: "Tide_Level" is "tide-level".
std::string normal(std::string name) {
  name = lowered(name);
  std::replace(name.begin(), name.end(), '_', '-');
  std::replace(name.begin(), name.end(), '.', '-');
  return name;
}

bool begins(const Keys& keys, const Keys& head) {
  return keys.size() >= head.size() && std::equal(head.begin(), head.end(), keys.begin());
}

// The members of the workspace that a file defines, by their names.
std::map<std::string, RelPath> members_of(const TreeReader& tree, const RelPath& project) {
  std::map<std::string, RelPath> out;
  for (const values::Value& value : values::read_toml(text_of(tree, project))) {
    if (!begins(value.path, {"tool", "uv", "workspace", "members"})) continue;
    for (const RelPath& folder : match_paths(tree, project.parent(), value.text)) {
      for (const values::Value& said : values::read_toml(text_of(tree, folder / kProject))) {
        if (said.path == Keys{"project", "name"}) out.emplace(normal(said.text), folder);
      }
    }
  }
  return out;
}

bool is_source_key(const Keys& keys, std::string_view last) {
  return keys.size() == 5 && begins(keys, {"tool", "uv", "sources"}) && keys[4] == last;
}

void share_in(const TreeReader& tree, const RelPath& project, const std::map<std::string, RelPath>& members,
              Change& out) {
  std::string text = text_of(tree, project);
  for (const values::Value& value : values::read_toml(text)) {
    if (!is_source_key(value.path, "path") || !value.verbatim) continue;
    auto member = members.find(normal(value.path[3]));
    if (member == members.end() || RelPath::resolve(project.parent(), value.text) != member->second) continue;
    out.edits.push_back({project, values::assignment(text, value.span, true), "workspace = true"});
    // A member is always editable.
    for (const values::Switch& one : values::read_toml_switches(text)) {
      if (is_source_key(one.path, "editable") && one.path[3] == value.path[3])
        out.edits.push_back(
            {project, values::with_separator(text, values::assignment(text, one.span, false)), ""});
    }
  }
}

void unshare_in(const TreeReader& tree, const RelPath& project, const std::map<std::string, RelPath>& members,
                Change& out) {
  std::string text = text_of(tree, project);
  for (const values::Switch& one : values::read_toml_switches(text)) {
    auto member =
        is_source_key(one.path, "workspace") && one.is_on ? members.find(normal(one.path[3])) : members.end();
    auto path = member == members.end()
                    ? std::nullopt
                    : values::written(relative_text(project.parent(), member->second), values::kTomlBasic);
    if (!path) continue;
    Span flag = values::assignment(text, one.span, false);
    bool has_line = line_begin(text, flag.begin) == flag.begin;
    out.edits.push_back(
        {project, flag, "path = \"" + *path + (has_line ? "\"\n" : "\", ") + "editable = true"});
  }
}

template <typename Make>
std::vector<Change> changes(const ClaimedTree& before, const Make& make) {
  std::vector<Change> out;
  for (const RelPath& top : before.files) {
    auto members = top.name() == kProject ? members_of(before.tree, top) : std::map<std::string, RelPath>();
    Change change;
    for (const auto& [name, folder] : members) {
      if (before.tree.is_editable(folder / kProject)) make(before.tree, folder / kProject, members, change);
    }
    if (!change.edits.empty()) out.push_back(std::move(change));
  }
  return out;
}

}  // namespace

std::vector<Change> share_sources(const ClaimedTree& before) {
  return changes(before, share_in);
}

std::vector<Change> unshare_sources(const ClaimedTree& before) {
  return changes(before, unshare_in);
}

}  // namespace yc::python_settings
