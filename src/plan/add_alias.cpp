// Writing a new alias where the tools of a project read such names.
#include <fmt/format.h>

#include <algorithm>

#include "formats/format.h"
#include "formats/json/json_strings.h"
#include "plan/restyle.h"

namespace yc {

namespace {

std::string indent_at(std::string_view bytes, std::size_t at) {
  std::size_t line = bytes.rfind('\n', at == 0 ? 0 : at - 1);
  std::size_t begin = line == std::string_view::npos ? 0 : line + 1;
  std::size_t end = bytes.find_first_not_of(" \t", begin);
  return std::string(bytes.substr(begin, std::min(end, bytes.size()) - begin));
}

// Puts an entry before the first one of the table that opens at `open`, in that one's manner.
Edit entry_edit(const RelPath& file, std::string_view bytes, std::size_t open, const std::string& entry) {
  std::size_t first = bytes.find_first_not_of(" \t\r\n", open + 1);
  bool empty = first == std::string_view::npos || bytes[first] == '}';
  bool own_line = !empty && bytes.substr(open, first - open).find('\n') != std::string_view::npos;
  auto at = static_cast<std::uint32_t>(open + 1);
  if (empty) return {file, {at, at}, " " + entry + " "};
  if (!own_line)
    return {file, {static_cast<std::uint32_t>(first), static_cast<std::uint32_t>(first)}, entry + ", "};
  const char* end = bytes.find("\r\n") != std::string_view::npos ? "\r\n" : "\n";
  return {file,
          {static_cast<std::uint32_t>(first), static_cast<std::uint32_t>(first)},
          entry + "," + end + indent_at(bytes, first)};
}

// Where the table of a key opens: "paths": {, alias: {. Comments are not looked into.
std::size_t table_of(std::string_view bytes, std::string_view key) {
  for (std::size_t at = bytes.find(key); at != std::string_view::npos; at = bytes.find(key, at + 1)) {
    std::size_t after = bytes.find_first_not_of(" \t\r\n\"'", at + key.size());
    if (after == std::string_view::npos || bytes[after] != ':') continue;
    std::size_t open = bytes.find_first_not_of(" \t\r\n", after + 1);
    if (open != std::string_view::npos && bytes[open] == '{') return open;
  }
  return std::string_view::npos;
}

std::string relative_place(const RelPath& from, const RelPath& folder) {
  std::string text = relative_text(from, folder);
  return text.starts_with("../") ? text : "./" + text;
}

class Adder {
 public:
  Adder(const TreeReader& tree, std::string name, const RelPath& folder, Plan& plan)
      : tree_(tree), name_(std::move(name)), folder_(folder), plan_(plan) {}

  Status run() {
    bool any = compiler();
    if (name_.starts_with("#")) any = manifest() || any;
    for (const RelPath& path : tree_.files()) {
      std::string_view name = path.name();
      const Entry* entry = tree_.find(path);
      bool settings = name.find(".config.") != std::string_view::npos && folder_.is_within(path.parent()) &&
                      entry->kind == EntryKind::file && !entry->ignored && !entry->guarded;
      if (settings) any = program(path) || any;
    }
    if (!any)
      return Error{Failure::usage, "--add-alias", "nothing here keeps a table of names for folders",
                   "make a tsconfig.json or jsconfig.json first"};
    return {};
  }

 private:
  // The nearest settings above the folder, or those that they take their paths from.
  bool compiler() {
    for (RelPath up = folder_;; up = up.parent()) {
      for (const char* name : {"tsconfig.json", "jsconfig.json"}) {
        if (tree_.is_file(up / name)) return compiler_at(up / name, 0);
      }
      if (up.is_root()) return false;
    }
  }

  bool compiler_at(const RelPath& path, std::size_t depth) {
    auto read = tree_.read(path);
    if (!read) return false;
    std::string_view bytes = **read;
    std::size_t table = table_of(bytes, "\"paths\"");
    std::vector<json::StringValue> values = json::string_values(bytes);
    RelPath base = path.parent();
    bool has_base = false;
    for (const json::StringValue& value : values) {
      bool extends = !value.path.empty() && value.path[0] == "extends" && value.text.starts_with(".");
      if (extends && table == std::string_view::npos && depth < 8) {
        for (const char* tail : {"", ".json"}) {
          auto parent = RelPath::resolve(path.parent(), value.text + tail);
          auto parent_bytes = parent && tree_.is_file(*parent) ? tree_.read(*parent) : Result<Bytes>(Error{});
          if (parent_bytes && table_of(**parent_bytes, "\"paths\"") != std::string::npos)
            return compiler_at(*parent, depth + 1);
        }
      }
      if (value.path == std::vector<std::string>{"compilerOptions", "baseUrl"}) {
        if (auto place = RelPath::resolve(path.parent(), value.text)) base = *place, has_base = true;
      }
    }
    std::string target = has_base ? relative_text(base, folder_) : relative_place(base, folder_);
    std::string entry = fmt::format("\"{}/*\": [\"{}/*\"]", name_, target);
    if (table != std::string_view::npos) {
      put(entry_edit(path, bytes, table, entry));
      return true;
    }
    std::size_t options = table_of(bytes, "\"compilerOptions\"");
    if (options != std::string_view::npos) {
      put(entry_edit(path, bytes, options, fmt::format("\"paths\": {{ {} }}", entry)));
      return true;
    }
    std::size_t open = bytes.find('{');
    if (open == std::string_view::npos) return false;
    put(entry_edit(path, bytes, open, fmt::format("\"compilerOptions\": {{ \"paths\": {{ {} }} }}", entry)));
    return true;
  }

  bool manifest() {
    for (RelPath up = folder_;; up = up.parent()) {
      RelPath path = up / "package.json";
      if (tree_.is_file(path)) {
        auto read = tree_.read(path);
        if (!read) return false;
        std::string entry = fmt::format("\"{}/*\": \"{}/*\"", name_, relative_place(up, folder_));
        std::size_t table = table_of(**read, "\"imports\"");
        if (table != std::string_view::npos) {
          put(entry_edit(path, **read, table, entry));
        } else {
          put(entry_edit(path, **read, (*read)->find('{'), fmt::format("\"imports\": {{ {} }}", entry)));
        }
        return true;
      }
      if (up.is_root()) return false;
    }
  }

  // In the manner of the entry that stands first in the table.
  bool program(const RelPath& path) {
    auto read = tree_.read(path);
    if (!read) return false;
    std::string_view bytes = **read;
    std::string place = relative_text(path.parent(), folder_);
    std::size_t mapper = table_of(bytes, "moduleNameMapper"), alias = table_of(bytes, "alias");
    if (mapper != std::string_view::npos)
      put(entry_edit(path, bytes, mapper, fmt::format("'^{}/(.*)$': '<rootDir>/{}/$1'", name_, place)));
    if (alias != std::string_view::npos) {
      std::size_t close = std::min(bytes.find('}', alias), bytes.size());
      std::string_view table = bytes.substr(alias, close - alias);
      std::string value = fmt::format("'./{}'", place);
      if (table.find("path.resolve(__dirname") != std::string_view::npos)
        value = fmt::format("path.resolve(__dirname, '{}')", place);
      else if (table.find("resolve(__dirname") != std::string_view::npos)
        value = fmt::format("resolve(__dirname, '{}')", place);
      else if (table.find("fileURLToPath(") != std::string_view::npos)
        value = fmt::format("fileURLToPath(new URL('./{}', import.meta.url))", place);
      put(entry_edit(path, bytes, alias, fmt::format("'{}': {}", name_, value)));
    }
    bool any = mapper != std::string_view::npos || alias != std::string_view::npos;
    if (!any)
      plan_.notices.push_back(
          {"no-alias-table",
           path,
           {},
           false,
           fmt::format("has no table of aliases; if its tool resolves modules, give it {} too", name_)});
    return any;
  }

  void put(const Edit& edit) { plan_.edits[edit.file].add(edit.span, edit.text); }

  const TreeReader& tree_;
  std::string name_;
  RelPath folder_;
  Plan& plan_;
};

}  // namespace

Status add_alias(const TreeReader& tree, const std::string& name, const RelPath& folder, Plan& plan) {
  return Adder(tree, name, folder, plan).run();
}

}  // namespace yc
