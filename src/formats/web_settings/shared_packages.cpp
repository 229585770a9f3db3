#include "formats/web_settings/shared_packages.h"

#include <algorithm>
#include <map>

#include "formats/json/json_strings.h"
#include "formats/values/values.h"

namespace yc::web_settings {

namespace {

using SharedChange = SharedDefinitions::Change;

struct SharedWorkspace {
  RelPath folder;
  bool by_mark = false;                    // its tool knows "workspace:*"
  std::map<std::string, RelPath> members;  // by the names of the packages
};

std::string text_at(const TreeReader& tree, const RelPath& path) {
  auto bytes = tree.is_file(path) ? tree.read(path) : Result<Bytes>(Error{});
  return bytes ? **bytes : std::string();
}

std::string package_name(const TreeReader& tree, const RelPath& manifest) {
  for (const json::StringValue& value : json::string_values(text_at(tree, manifest))) {
    if (value.path == std::vector<std::string>{"name"}) return value.text;
  }
  return "";
}

std::optional<SharedWorkspace> workspace_at(const TreeReader& tree, const RelPath& folder) {
  SharedWorkspace out{folder, false, {}};
  std::vector<std::string> patterns;
  for (const json::StringValue& value : json::string_values(text_at(tree, folder / "package.json"))) {
    if (value.path.front() == "workspaces") patterns.push_back(value.text);
  }
  for (const values::Value& value : values::read_yaml(text_at(tree, folder / "pnpm-workspace.yaml"))) {
    if (value.path.front() != "packages") continue;
    patterns.push_back(value.text);
    out.by_mark = true;
  }
  // A lock tells that another tool installs, which knows no such mark.
  out.by_mark =
      (out.by_mark || tree.is_file(folder / ".yarnrc.yml")) && !tree.is_file(folder / "package-lock.json");
  for (const std::string& pattern : patterns) {
    if (pattern.starts_with("!")) continue;
    for (const RelPath& member : match_paths(tree, folder, pattern)) {
      std::string name =
          tree.is_file(member / "package.json") ? package_name(tree, member / "package.json") : "";
      if (!name.empty()) out.members.emplace(name, member);
    }
  }
  return out.members.empty() ? std::nullopt : std::optional(std::move(out));
}

// Calls take(file, value, folder of the package) for each dependency on another member, in manifests and
// locks.
template <typename Take>
void each_dependency(const TreeReader& tree, const SharedWorkspace& workspace, const Take& take) {
  auto is_plain = [](const json::StringValue& value) { return value.span.size() == value.text.size(); };
  for (const auto& [name, member] : workspace.members) {
    RelPath manifest = member / "package.json";
    if (!tree.is_editable(manifest)) continue;
    for (const json::StringValue& value : json::string_values(text_at(tree, manifest))) {
      bool is_dependency =
          value.path.size() == 2 && value.path[0].ends_with("ependencies") && is_plain(value);
      if (is_dependency && workspace.members.contains(value.path[1]))
        take(manifest, value, value.path[1], member);
    }
  }
  RelPath lock = workspace.folder / "package-lock.json";
  for (const json::StringValue& value : json::string_values(text_at(tree, lock))) {
    bool is_dependency = value.path.size() == 4 && value.path[0] == "packages" &&
                         value.path[2].ends_with("ependencies") && is_plain(value);
    auto member = is_dependency ? RelPath::resolve(workspace.folder, value.path[1]) : std::nullopt;
    if (member && workspace.members.contains(value.path[3])) take(lock, value, value.path[3], *member);
  }
}

std::vector<SharedChange> changes(const ClaimedTree& before, bool is_shared) {
  std::vector<SharedChange> out;
  for (const RelPath& manifest : before.files) {
    if (manifest.name() != "package.json") continue;
    auto workspace = workspace_at(before.tree, manifest.parent());
    if (!workspace) continue;
    SharedChange change;
    each_dependency(before.tree, *workspace,
                    [&](const RelPath& file, const json::StringValue& value, const std::string& name,
                        const RelPath& package) {
                      const RelPath& target = workspace->members.at(name);
                      bool is_path = value.text.starts_with("file:") || value.text.starts_with("link:");
                      bool is_member = value.text == "*" || value.text.starts_with("workspace:");
                      auto place = is_path ? RelPath::resolve(package, value.text.substr(5)) : std::nullopt;
                      if (is_shared && place == target)
                        change.edits.push_back({file, value.span, workspace->by_mark ? "workspace:*" : "*"});
                      if (!is_shared && is_member)
                        change.edits.push_back({file, value.span, "file:" + relative_text(package, target)});
                    });
    if (!change.edits.empty()) out.push_back(std::move(change));
  }
  return out;
}

}  // namespace

std::vector<SharedChange> share_packages(const ClaimedTree& before) {
  return changes(before, true);
}

std::vector<SharedChange> unshare_packages(const ClaimedTree& before) {
  return changes(before, false);
}

}  // namespace yc::web_settings
