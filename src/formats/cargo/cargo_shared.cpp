#include "formats/cargo/cargo_shared.h"

#include <algorithm>
#include <map>
#include <set>

#include "base/text.h"
#include "formats/cargo/cargo_manifest.h"
#include "formats/cargo/cargo_units.h"
#include "formats/values/toml_edits.h"

namespace yc::cargo {

namespace {

using Keys = std::vector<std::string>;
using Change = SharedDefinitions::Change;

// One entry of a table of dependencies.
struct TableEntry {
  RelPath manifest;
  std::map<std::string, Span> keys;          // of a table: the spans of their values, within quotes
  std::map<std::string, std::string> texts;  // the same, for strings
  std::optional<Span> plain;                 // level = "1": the version, within quotes
  bool is_inherited = false;
  std::string at;  // the table: "dependencies", "target.x.dev-dependencies"
  bool says_only(const std::set<std::string>& known) const {
    return std::all_of(keys.begin(), keys.end(), [&](const auto& one) { return known.contains(one.first); });
  }
};

struct Workspace {
  RelPath manifest;
  std::string text;
  std::map<std::string, TableEntry> shared;               // by name
  std::map<std::string, std::vector<TableEntry>> wanted;  // of its members, by name
};

bool is_table(const std::string& key) {
  return key == "dependencies" || key == "dev-dependencies" || key == "build-dependencies";
}

void note(const Keys& keys, Span span, const std::string* text, const RelPath& manifest,
          std::map<std::string, TableEntry>& shared,
          std::map<std::string, std::map<std::string, TableEntry>>& own) {
  for (std::size_t i = 0; i + 1 < keys.size(); ++i) {
    if (!is_table(keys[i])) continue;
    bool is_top = i == 1 && keys[0] == "workspace";
    if (i > 0 && !is_top && keys[0] != "target") return;
    std::string table;
    for (std::size_t k = 0; k <= i; ++k) table += keys[k] + ".";
    TableEntry& entry = is_top ? shared[keys[i + 1]] : own[keys[i + 1]][table];
    entry.manifest = manifest;
    entry.at = table;
    if (keys.size() == i + 2 && text) entry.plain = span;
    if (keys.size() == i + 2 && text) entry.texts["version"] = *text;
    if (keys.size() > i + 2) entry.keys[keys[i + 2]] = span;
    if (keys.size() == i + 3 && text) entry.texts[keys[i + 2]] = *text;
    if (keys.size() == i + 3 && keys[i + 2] == "workspace" && !text) entry.is_inherited = true;
    return;
  }
}

std::map<RelPath, Workspace> workspaces(const ClaimedTree& before) {
  std::map<RelPath, Workspace> out;
  std::map<RelPath, std::map<std::string, std::map<std::string, TableEntry>>> own;
  std::map<RelPath, std::string> texts;
  for (const RelPath& path : before.files) {
    auto bytes =
        is_manifest(path) && before.tree.is_editable(path) ? before.tree.read(path) : Result<Bytes>(Error{});
    if (!bytes) continue;
    std::map<std::string, TableEntry> shared;
    for (const values::Value& value : values::read_toml(**bytes)) {
      if (value.path.size() > 1) note(value.path, value.span, &value.text, path, shared, own[path]);
    }
    for (const values::Switch& one : values::read_toml_switches(**bytes)) {
      if (one.path.size() > 1) note(one.path, one.span, nullptr, path, shared, own[path]);
    }
    texts[path] = **bytes;
    if (read_manifest(**bytes).is_workspace) out[path] = {path, **bytes, std::move(shared), {}};
  }
  Manifests manifests(before.tree);
  for (auto& [path, entries] : own) {
    auto manifest = workspace_of(manifests, path);
    auto top = manifest ? out.find(*manifest) : out.end();
    if (top == out.end()) continue;
    for (auto& [name, tables] : entries) {
      for (auto& [table, entry] : tables) top->second.wanted[name].push_back(entry);
    }
  }
  return out;
}

std::string text_of(const TreeReader& tree, const RelPath& path) {
  auto bytes = tree.read(path);
  return bytes ? **bytes : std::string();
}

constexpr std::string_view kHeader = "[workspace.dependencies]";

std::size_t header_at(std::string_view text) {
  std::size_t header = text.find(kHeader);
  while (header != std::string_view::npos && header > 0 && text[header - 1] != '\n')
    header = text.find(kHeader, header + 1);
  return header;
}

// The header, with the blank line before it.
std::optional<Span> header_lines(std::string_view text) {
  std::size_t header = header_at(text);
  if (header == std::string_view::npos) return std::nullopt;
  std::size_t end = std::min(text.find('\n', header), text.size() - 1) + 1;
  return span_of(text.substr(0, header).ends_with("\n\n") ? header - 1 : header, end);
}

// Where a line of [workspace.dependencies] can be put, and what must stand before it.
std::pair<std::uint32_t, std::string> place_for_definition(std::string_view text) {
  std::size_t header = header_at(text);
  auto end = static_cast<std::uint32_t>(text.size());
  if (header == std::string_view::npos) {
    bool ends_line = text.empty() || text.back() == '\n';
    return {end, std::string(ends_line ? "\n" : "\n\n") + std::string(kHeader) + "\n"};
  }
  std::size_t next = text.find("\n[", header);
  std::size_t at = next == std::string_view::npos ? text.size() : next + 1;
  while (at > header && (text[at - 1] == '\n' || is_blank(text[at - 1]))) --at;
  at = std::min(text.find('\n', at), text.size());
  bool ends_line = at < text.size();
  return {static_cast<std::uint32_t>(ends_line ? at + 1 : at), ends_line ? "" : "\n"};
}

// The folder that all of them name by their paths, from the top; nothing if they name different ones.
std::optional<RelPath> common_target(const std::vector<const TableEntry*>& entries) {
  std::optional<RelPath> out;
  for (const TableEntry* entry : entries) {
    auto path = entry->texts.find("path");
    auto folder =
        path == entry->texts.end() ? std::nullopt : RelPath::resolve(entry->manifest.parent(), path->second);
    if (!folder || (out && *out != *folder)) return std::nullopt;
    out = folder;
  }
  return out;
}

// The version that they all ask for; empty if none does, nothing if they ask for different ones.
std::optional<std::string> common_version(const std::vector<const TableEntry*>& entries) {
  std::string out;
  for (const TableEntry* entry : entries) {
    auto version = entry->texts.find("version");
    if (version == entry->texts.end()) continue;
    if (!out.empty() && out != version->second) return std::nullopt;
    out = version->second;
  }
  return out;
}

void inherit(const ClaimedTree& before, const TableEntry& entry, std::vector<Edit>& out) {
  std::string text = text_of(before.tree, entry.manifest);
  if (entry.plain) {
    out.push_back({entry.manifest, {entry.plain->begin - 1, entry.plain->end + 1}, "{ workspace = true }"});
    return;
  }
  auto path = entry.keys.find("path"), version = entry.keys.find("version");
  auto first = path != entry.keys.end() ? path : version;
  out.push_back({entry.manifest, values::assignment(text, first->second, true), "workspace = true"});
  if (path != entry.keys.end() && version != entry.keys.end())
    out.push_back(
        {entry.manifest, values::with_separator(text, values::assignment(text, version->second, true)), ""});
}

std::string quoted(const std::string& text) {
  return "\"" + values::written(text, values::kTomlBasic).value_or("") + "\"";
}

}  // namespace

std::vector<Change> share_dependencies(const ClaimedTree& before) {
  std::vector<Change> out;
  // What an inheriting crate may still say for itself.
  const std::set<std::string> known = {"path", "version", "features", "optional"};
  for (const auto& [manifest, workspace] : workspaces(before)) {
    Change change;
    std::string lines;
    for (const auto& [name, entries] : workspace.wanted) {
      std::vector<const TableEntry*> own;
      bool is_plain = true;
      for (const TableEntry& entry : entries) {
        if (!entry.is_inherited) own.push_back(&entry);
        is_plain = is_plain && (entry.is_inherited || entry.says_only(known));
      }
      auto target = common_target(own);
      auto version = common_version(own);
      bool is_worth = target || (own.size() > 1 && version && !version->empty() &&
                                 std::none_of(own.begin(), own.end(), [](const TableEntry* entry) {
                                   return entry->texts.contains("path");
                                 }));
      if (own.empty() || !is_plain || !version || !is_worth || workspace.shared.contains(name)) continue;
      for (const TableEntry* entry : own) inherit(before, *entry, change.edits);
      std::string definition = target ? "{ path = " + quoted(relative_text(manifest.parent(), *target)) +
                                            (version->empty() ? "" : ", version = " + quoted(*version)) + " }"
                                      : quoted(*version);
      lines += name + " = " + definition + "\n";
    }
    if (lines.empty()) continue;
    auto [at, gap] = place_for_definition(workspace.text);
    change.edits.push_back({manifest, {at, at}, gap + lines});
    out.push_back(std::move(change));
  }
  return out;
}

std::vector<Change> unshare_dependencies(const ClaimedTree& before) {
  std::vector<Change> out;
  const std::set<std::string> known = {"path", "version"};
  for (const auto& [manifest, workspace] : workspaces(before)) {
    Change change;
    std::size_t gone = 0;
    for (const auto& [name, definition] : workspace.shared) {
      auto users = workspace.wanted.find(name);
      auto path = definition.texts.find("path"), version = definition.texts.find("version");
      if (users == workspace.wanted.end() || !definition.says_only(known)) continue;
      auto folder =
          path == definition.texts.end() ? std::nullopt : RelPath::resolve(manifest.parent(), path->second);
      for (const TableEntry& entry : users->second) {
        if (!entry.is_inherited) continue;
        std::string text = text_of(before.tree, entry.manifest);
        Span flag = values::assignment(text, entry.keys.at("workspace"), false);
        std::string said;
        if (folder) said = "path = " + quoted(relative_text(entry.manifest.parent(), *folder));
        if (version != definition.texts.end())
          said += (said.empty() ? "" : ", ") + std::string("version = ") + quoted(version->second);
        bool is_dotted = flag.begin > 0 && text[flag.begin - 1] == '.';
        if (is_dotted) {
          --flag.begin;
          said = " = { " + said + " }";
        } else if (text[line_begin(text, flag.begin)] == text[flag.begin] &&
                   line_begin(text, flag.begin) == flag.begin) {
          // In a table of its own each key has a line.
          std::size_t comma = said.find(", version");
          if (comma != std::string::npos) said.replace(comma, 2, "\n");
        }
        change.edits.push_back({entry.manifest, flag, said});
      }
      Span first = definition.plain ? *definition.plain : definition.keys.begin()->second;
      std::size_t begin = line_begin(workspace.text, first.begin);
      std::size_t end = std::min(workspace.text.find('\n', first.begin), workspace.text.size());
      bool is_one_line = trimmed(workspace.text.substr(begin, name.size())) == name;
      if (!is_one_line) continue;
      change.edits.push_back({manifest, span_of(begin, std::min(end + 1, workspace.text.size())), ""});
      ++gone;
    }
    if (gone > 0 && gone == workspace.shared.size()) {
      if (auto header = header_lines(workspace.text)) change.edits.push_back({manifest, *header, ""});
    }
    if (!change.edits.empty()) out.push_back(std::move(change));
  }
  return out;
}

}  // namespace yc::cargo
