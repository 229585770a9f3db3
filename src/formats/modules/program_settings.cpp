#include "formats/modules/program_settings.h"

#include <algorithm>

#include "formats/capabilities/members.h"
#include "formats/modules/alias_tables.h"
#include "formats/modules/module_scan.h"
#include "formats/modules/site_routes.h"

namespace yc {

namespace {

using modules::Joined;
using modules::ModuleFacts;
using modules::PathText;

constexpr std::string_view kRootDir = "<rootDir>/";

// Of an entry { find: "@", replacement: … }: what is found.
std::string found_before(std::string_view bytes, std::size_t at) {
  std::size_t from = at > 200 ? at - 200 : 0;
  std::size_t find = bytes.substr(0, at).rfind("find:");
  if (find == std::string_view::npos || find < from) return "";
  std::size_t open = bytes.find_first_of("'\"", find);
  if (open == std::string_view::npos || open > at) return "";
  std::size_t close = bytes.find(bytes[open], open + 1);
  return close == std::string_view::npos ? "" : std::string(bytes.substr(open + 1, close - open - 1));
}

class Adder {
 public:
  Adder(const TreeReader& tree, const RelPath& path, std::string_view bytes, GraphBuilder& out)
      : tree_(tree), path_(path), bytes_(bytes), out_(out) {}

  void add(std::string key, std::string value, std::size_t at) {
    if (key == "replacement") key = found_before(bytes_, at);
    if (key.empty()) return;
    if (value.starts_with(kRootDir)) value.erase(0, kRootDir.size());
    // '^@/(.*)$': '<rootDir>/src/$1'
    if (key.starts_with("^")) {
      std::size_t group = key.find("(.*)");
      std::size_t one = value.find("$1");
      if (group == std::string::npos || one == std::string::npos) return;
      std::string head = key.substr(1, group - 1);
      std::erase(head, '\\');
      std::size_t slash = value.rfind('/', one);
      if (slash == std::string::npos) return;
      put(head, value.substr(0, slash), true, value.substr(slash + 1, one - slash - 1),
          value.substr(one + 2));
      return;
    }
    bool exact = key.ends_with("$");
    if (exact) key.pop_back();
    put(key, value, false, "", "");
    if (!exact) put(key.ends_with("/") ? key : key + "/", value, true, "", "");
  }

  // loadPaths: ['./scss', …]: folders that stylesheets are looked up in.
  void add_load_path(const std::string& value, std::size_t at) {
    std::string_view before = bytes_.substr(0, at);
    std::size_t open = before.rfind('[');
    if (open == std::string_view::npos || before.find(']', open) != std::string_view::npos) return;
    std::string_view lead = before.substr(0, open);
    std::size_t name = lead.find_last_not_of(" :\t\r\n");
    if (name == std::string_view::npos) return;
    lead = lead.substr(0, name + 1);
    if (!lead.ends_with("loadPaths") && !lead.ends_with("includePaths")) return;
    auto place = RelPath::resolve(path_.parent(), value);
    if (!place || !tree_.is_folder(*place)) return;
    Alias alias;
    alias.settings = path_;
    alias.scope = path_.parent();
    alias.open = true;
    alias.styles = true;
    alias.place = *place;
    out_.graph().aliases.push_back(std::move(alias));
  }

 private:
  void put(const std::string& head, const std::string& value, bool open, const std::string& before,
           const std::string& after) {
    auto place = RelPath::resolve(path_.parent(), value);
    if (!place || head.empty() || head == "/" || (!open && place->is_root())) return;
    const Entry* entry = tree_.find(*place);
    if (open && !tree_.is_folder(*place)) return;
    if (entry && entry->ignored) return;
    Alias alias;
    alias.scope = path_.parent();
    alias.settings = path_;
    alias.head = head;
    alias.open = open;
    alias.place = *place;
    alias.before = before;
    alias.after = after;
    out_.graph().aliases.push_back(std::move(alias));
  }

  const TreeReader& tree_;
  const RelPath& path_;
  std::string_view bytes_;
  GraphBuilder& out_;
};

bool is_program_settings(const RelPath& path) {
  if (!modules::dialect_of(path)) return false;
  std::string_view name = path.name();
  return name.find("config") != std::string_view::npos || name.find("rc.") != std::string_view::npos ||
         name.starts_with("webpack") || name.starts_with("rollup") || name.starts_with("vite") ||
         name.starts_with("jest");
}

class ProgramSettingsFormat : public Format, public DefinesScope, public Routes, public AliasTables {
 public:
  std::string_view name() const override { return "program settings"; }
  ScopeSet gives() const override { return Scope::bundler_names; }
  bool defines_scope(const RelPath& path) const override { return is_program_settings(path); }

  bool claims(const RelPath& path) const override { return is_program_settings(path); }

  std::vector<RouteFolder> route_folders(const ClaimedTree& before) const override {
    return modules::route_folders(before);
  }
  Written name_folder(const ClaimedTree& before, const std::string& name,
                      const RelPath& folder) const override {
    return modules::name_in_programs(before, name, folder);
  }

  void read(const Reading& in) const override {
    for (const RelPath& path : in.files) {
      auto bytes = in.tree.read(path);
      if (!bytes) continue;
      auto facts = in.cache.get<ModuleFacts>(in.self, *bytes, [&](const std::string& text) {
        return modules::scan_module(text, *modules::dialect_of(path));
      });
      read_one(in.tree, path, *facts, **bytes, in.out);
    }
  }

  std::optional<std::string> write(std::string_view, WritingStyle) const override { return std::nullopt; }

 private:
  static void read_one(const TreeReader& tree, const RelPath& path, const ModuleFacts& facts,
                       std::string_view bytes, GraphBuilder& out) {
    Adder adder(tree, path, bytes, out);
    for (const Joined& joined : facts.joined) {
      std::string value;
      for (const Span& part : joined.parts)
        value += (value.empty() ? "" : "/") + std::string(bytes.substr(part.begin, part.size()));
      if (value.empty()) continue;
      adder.add(joined.key, value, joined.statement);
      adder.add_load_path(value, joined.statement);
    }
    for (const PathText& text : facts.texts) {
      bool relative =
          text.text.starts_with("./") || text.text.starts_with("../") || text.text.starts_with(kRootDir);
      if (relative && !text.key.empty()) adder.add(text.key, text.text, text.span.begin);
      adder.add_load_path(text.text, text.span.begin);
    }
  }
};

}  // namespace

std::unique_ptr<Format> program_settings_format() {
  return std::make_unique<ProgramSettingsFormat>();
}

}  // namespace yc
