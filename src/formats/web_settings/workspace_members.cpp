#include "formats/web_settings/workspace_members.h"

#include <algorithm>

#include "formats/json/json_lists.h"
#include "formats/json/json_members.h"
#include "words/web_settings.h"

namespace yc::web_settings {

namespace {

// Several changes of one text, as the one edit that they are together.
class Change {
 public:
  Change(const TreeReader& tree, RelPath file) : file_(std::move(file)) {
    if (auto bytes = tree.is_editable(file_) ? tree.read(file_) : Result<Bytes>(Error{})) before_ = **bytes;
    after_ = before_;
  }
  const std::string& text() const { return after_; }
  const RelPath& file() const { return file_; }
  void apply(const std::optional<Edit>& edit) {
    if (edit) after_.replace(edit->span.begin, edit->span.size(), edit->text);
  }

  void put_into(std::vector<Edit>& out) const {
    if (auto edit = edit_between(file_, before_, after_)) out.push_back(*edit);
  }

 private:
  RelPath file_;
  std::string before_, after_;
};

// Where a manifest or a lock's first package lists the members.
std::vector<std::string> list_in(const std::string& text, std::vector<std::string> at) {
  std::vector<json::Member> all = json::members(text);
  at.emplace_back("workspaces");
  const json::Member* list = json::member_at(all, at);
  if (list && text[list->value.begin] == '{') at.emplace_back("packages");
  return at;
}

void list_member(Change& change, const std::vector<std::string>& at, const std::string& folder) {
  std::vector<json::Member> all = json::members(change.text());
  const json::Member* list = json::member_at(all, at);
  if (!list || change.text()[list->value.begin] != '[') return;
  const json::Member* last = nullptr;
  for (const json::Member& one : all) {
    if (one.path.size() == at.size() + 1 && std::equal(at.begin(), at.end(), one.path.begin())) last = &one;
  }
  if (!last) {
    auto begin = list->value.begin + 1;
    return change.apply(Edit{change.file(), {begin, begin}, "\"" + folder + "\""});
  }
  if (auto text = json::beside(change.text(), last->value, folder))
    change.apply(Edit{change.file(), {last->value.end, last->value.end}, *text});
}

void unlist_member(Change& change, std::vector<std::string> at, const std::string& folder) {
  for (const json::StringValue& value : json::string_values(change.text())) {
    bool is_here = value.path.size() == at.size() + 1 && std::equal(at.begin(), at.end(), value.path.begin());
    if (!is_here || value.text != folder) continue;
    at.push_back(value.path.back());
    return change.apply(json::drop_member(change.file(), change.text(), at));
  }
}

bool takes_in(const TreeReader& tree, const RelPath& root, const std::vector<std::string>& patterns,
              const RelPath& folder) {
  return std::any_of(patterns.begin(), patterns.end(), [&](const std::string& pattern) {
    if (pattern.starts_with("!")) return false;
    std::vector<RelPath> found = match_paths(tree, root, pattern);
    return std::find(found.begin(), found.end(), folder) != found.end();
  });
}

std::string lock_entry(const NewMember& member) {
  std::string out = "{\n  \"name\": \"" + member.name + "\"";
  if (!member.version.empty()) out += ",\n  \"version\": \"" + member.version + "\"";
  std::map<std::string, std::string> sections;
  for (const auto& [name, dependency] : member.dependencies) {
    std::string& list = sections[dependency.section];
    list += (list.empty() ? "" : ",") + ("\n    \"" + name) + "\": \"" + dependency.version + "\"";
  }
  for (const auto& [section, list] : sections) out += ",\n  \"" + section + "\": {" + list + "\n  }";
  return out + "\n}";
}

std::string key_of_list(const Workspace& workspace, const RelPath& folder) {
  return std::string(folder.below(workspace.folder));
}

}  // namespace

std::optional<Workspace> workspace_above(const TreeReader& tree, const RelPath& folder) {
  for (RelPath up = folder;; up = up.parent()) {
    auto manifest = read_manifest(tree, up / "package.json");
    bool by_list = tree.is_file(up / "pnpm-workspace.yaml");
    if ((manifest && !manifest->members.empty()) || by_list) {
      bool knows = by_list || tree.is_file(up / ".yarnrc.yml");
      return Workspace{up, knows && !tree.is_file(up / "package-lock.json"), by_list};
    }
    if (up.is_root()) return std::nullopt;
  }
}

std::string member_version(const TreeReader&, const Workspace& workspace) {
  return workspace.by_mark ? "workspace:*" : "*";
}

std::vector<Edit> add_member(const TreeReader& tree, const Workspace& workspace, const NewMember& member) {
  std::vector<Edit> out;
  std::string key = key_of_list(workspace, member.folder);
  auto manifest = read_manifest(tree, workspace.folder / "package.json");
  bool is_taken = manifest && takes_in(tree, workspace.folder, manifest->members, member.folder);
  Change lock(tree, workspace.folder / "package-lock.json");
  if (!is_taken && !workspace.by_list) {
    Change list(tree, workspace.folder / "package.json");
    list_member(list, list_in(list.text(), {}), key);
    list.put_into(out);
    list_member(lock, list_in(lock.text(), {"packages", ""}), key);
  }
  lock.apply(json::put_member(lock.file(), lock.text(), {"packages"}, key, lock_entry(member)));
  lock.apply(json::put_member(lock.file(), lock.text(), {"packages"}, "node_modules/" + member.name,
                              "{\n  \"resolved\": \"" + key + "\",\n  \"link\": true\n}"));
  for (const RelPath& user : member.users) {
    lock.apply(json::put_in_section(lock.file(), lock.text(),
                                    {"packages", key_of_list(workspace, user), "dependencies"}, member.name,
                                    "\"" + member_version(tree, workspace) + "\""));
  }
  lock.put_into(out);
  return out;
}

std::optional<Notice> stale_lock(const TreeReader& tree, const Workspace& workspace) {
  for (const std::string& name : tree.children(workspace.folder)) {
    auto command = words::web_settings::lock_commands().find(name);
    if (command)
      return Notice{"stale-lock",
                    workspace.folder / name,
                    {},
                    false,
                    "tells other members; run " + std::string(*command) + " once"};
  }
  return std::nullopt;
}

std::vector<Edit> drop_member(const TreeReader& tree, const Workspace& workspace, const RelPath& folder,
                              const std::string& name) {
  std::vector<Edit> out;
  std::string key = key_of_list(workspace, folder);
  Change list(tree, workspace.folder / "package.json");
  unlist_member(list, list_in(list.text(), {}), key);
  list.put_into(out);
  Change lock(tree, workspace.folder / "package-lock.json");
  unlist_member(lock, list_in(lock.text(), {"packages", ""}), key);
  for (const std::string& gone : {key, "node_modules/" + name})
    lock.apply(json::drop_member(lock.file(), lock.text(), {"packages", gone}));
  for (bool found = true; found;) {
    found = false;
    for (const json::Member& one : json::members(lock.text())) {
      bool depends = one.path.size() == 4 && is_section(one.path[2]) && one.path[3] == name;
      if (!depends) continue;
      std::vector<std::string> section(one.path.begin(), one.path.end() - 1);
      lock.apply(drop_dependency(lock.file(), lock.text(), section, name));
      found = true;
      break;
    }
  }
  lock.put_into(out);
  return out;
}

}  // namespace yc::web_settings
