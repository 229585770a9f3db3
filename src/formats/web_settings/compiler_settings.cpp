#include "formats/web_settings/compiler_settings.h"
#include "formats/json/json_lists.h"

#include <algorithm>
#include <set>

#include "base/in_order.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/words.h"
#include "formats/web_settings/alias_tables.h"
#include "formats/web_settings/folder_pattern.h"
#include "formats/web_settings/left_uncompiled.h"
#include "formats/web_settings/output_shift.h"
#include "formats/web_settings/settings_paths.h"

namespace yc {

namespace {

using json::StringValue;
using web_settings::FolderPattern;
using web_settings::Settings;

bool is_compiler_settings(const RelPath& path) {
  std::string_view name = path.name();
  return name.ends_with(".json") && (name.starts_with("tsconfig") || name.starts_with("jsconfig"));
}

bool is_typed_source(const RelPath& path) {
  std::string_view ending = path.extension();
  return ending == ".ts" || ending == ".tsx" || ending == ".mts" || ending == ".cts";
}

bool is_declaration(const RelPath& path) {
  const std::string& text = path.str();
  return text.ends_with(".d.ts") || text.ends_with(".d.mts") || text.ends_with(".d.cts");
}

// A place that a settings file gives, relative to the file that says so.
struct Given {
  const StringValue* value = nullptr;
  RelPath place;
};

// One settings file, parsed, and what it inherits.
struct Compiler {
  RelPath path;
  std::vector<StringValue> values;
  std::string_view bytes;
  std::vector<RelPath> parents;  // nearest last, as later ones count
  bool composite = false, allows_js = false, emits = true;

  const StringValue* option(std::string_view name) const {
    for (const StringValue& value : values) {
      if (value.path.size() == 2 && value.path[0] == "compilerOptions" && value.path[1] == name)
        return &value;
    }
    return nullptr;
  }
  bool has(std::string_view first, std::string_view second = "") const {
    return std::any_of(values.begin(), values.end(), [&](const StringValue& value) {
      return value.path.size() > (second.empty() ? 1U : 2U) && value.path[0] == first &&
             (second.empty() || value.path[1] == second);
    });
  }
};

// Whether `"name": true` stands in the text. nlohmann-json parses no comments that stand in keys; this is
// enough for flags.
bool flag(std::string_view bytes, std::string_view name, std::string_view value = "true") {
  std::string quoted = "\"" + std::string(name) + "\"";
  std::size_t at = bytes.find(quoted);
  if (at == std::string_view::npos) return false;
  at = bytes.find_first_not_of(" \t\r\n:", at + quoted.size());
  return at != std::string_view::npos && bytes.substr(at, value.size()) == value;
}

class CompilerSettingsReader {
 public:
  CompilerSettingsReader(const TreeReader& tree, std::uint8_t format, GraphBuilder& out)
      : tree_(tree), self_(format), out_(out) {}

  // Reads these settings; gives how many there are, with those that they extend.
  std::size_t run(const std::vector<RelPath>& files) {
    for (const RelPath& path : files) load(path);
    for (const RelPath& path : std::vector<RelPath>(order_)) references(compilers_.at(path));
    for (const RelPath& path : std::vector<RelPath>(order_)) {
      scope(compilers_.at(path));
      output(compilers_.at(path));
    }
    return order_.size();
  }

 private:
  // Settings that are named in `extends` or `references` are read as well, whatever their name.
  Compiler* load(const RelPath& path) {
    if (auto known = compilers_.find(path); known != compilers_.end()) return &known->second;
    auto bytes = tree_.read(path);
    if (!bytes) return nullptr;
    order_.push_back(path);
    Compiler& compiler = compilers_[path];
    kept_.push_back(*bytes);
    compiler.path = path;
    compiler.bytes = *kept_.back();
    compiler.values = json::string_values(compiler.bytes);
    compiler.composite = flag(compiler.bytes, "composite");
    compiler.allows_js = flag(compiler.bytes, "allowJs");
    compiler.emits = !flag(compiler.bytes, "noEmit");
    for (const StringValue& value : compiler.values) {
      if (value.path.empty() || value.path[0] != "extends") continue;
      if (auto parent = settings_at(path.parent(), value.text)) compiler.parents.push_back(*parent);
    }
    for (const RelPath& parent : compiler.parents) load(parent);
    return &compilers_.at(path);
  }

  std::optional<RelPath> settings_at(const RelPath& folder, const std::string& text) const {
    if (!text.starts_with(".")) return std::nullopt;
    for (const char* tail : {"", ".json", "/tsconfig.json"}) {
      auto place = RelPath::resolve(folder, text + tail);
      if (place && !place->is_root() && tree_.is_file(*place)) return place;
    }
    return std::nullopt;
  }

  Settings settings_of(const Compiler& compiler) const {
    return {tree_, out_, self_, compiler.path, out_.files().index(compiler.path), compiler.bytes};
  }

  void references(const Compiler& compiler) {
    Settings settings = settings_of(compiler);
    static const std::set<std::string_view> kFolders = {"baseUrl", "rootDir", "rootDirs", "typeRoots"};
    static const std::set<std::string_view> kOutputs = {"outDir", "outFile", "declarationDir",
                                                        "tsBuildInfoFile"};
    std::vector<RelPath> merged;
    for (const StringValue& value : compiler.values) {
      const auto& path = value.path;
      if (path.empty()) continue;
      if (path[0] == "extends") {
        extends(settings, value);
      } else if (path[0] == "references" && path.back() == "path") {
        add_path(settings, value, Role::subfolder);
      } else if (path[0] == "files") {
        add_path(settings, value, Role::source);
      } else if (path[0] == "include") {
        include(settings, compiler, value);
      } else if (path[0] == "exclude") {
        add_pattern_head(settings, value);
      } else if (path[0] == "compilerOptions" && path.size() > 1) {
        if (path[1] == "paths" && path.size() == 4) {
          path_alias(settings, compiler, value);
        } else if (kFolders.contains(path[1])) {
          add_path(settings, value, Role::search_root);
          auto folder =
              path[1] == "rootDirs" ? RelPath::resolve(settings.folder(), value.text) : std::nullopt;
          if (folder) merged.push_back(std::move(*folder));
        } else if (kOutputs.contains(path[1])) {
          out_path(settings, value);
        } else if (path[1] == "types" && value.text.starts_with(".")) {
          add_path(settings, value, Role::source);
        }
      } else {
        // Of tools that keep their settings here too.
        bool is_path = value.text.starts_with("./") || value.text.starts_with("../");
        if (is_path) add_path(settings, value, Role::argument, Certainty::likely);
      }
    }
    if (merged.size() > 1) out_.graph().merged_folders.push_back({settings.folder(), std::move(merged)});
  }

  // The base's ending may be left out.
  void extends(const Settings& settings, const StringValue& value) {
    auto place = settings_at(settings.folder(), value.text);
    if (!place) return;
    Reference reference = reference_to(settings, value, Role::script, text_of(settings, value));
    auto plain = RelPath::resolve(settings.folder(), value.text);
    if (plain && *plain != *place)
      reference.text.append(TracedText::plain(place->str().substr(plain->str().size())));
    reference.lead_to(*place);
    out_.add(std::move(reference));
  }

  void out_path(const Settings& settings, const StringValue& value) {
    auto place = RelPath::resolve(settings.folder(), value.text);
    if (!place || *place == settings.folder()) return;
    std::size_t end = value.text.size();
    while (end > 1 && value.text[end - 1] == '/') --end;
    Reference reference = reference_to(settings, value, Role::argument, text_of(settings, value, 0, end));
    reference.lead_to(*place, Target::Kind::output);
    out_.add(std::move(reference));
  }

  // The words of a list are one construct, which stands where its first word does.
  static std::uint32_t list_of(const Compiler& compiler, const StringValue& value) {
    auto first = std::find_if(compiler.values.begin(), compiler.values.end(), [&](const StringValue& other) {
      return !other.path.empty() && other.path[0] == value.path[0];
    });
    return first->span.begin;
  }

  // Sources that a pattern takes in. A file that comes into its reach was most likely compiled before, for
  // somebody imports it; one that leaves is not compiled any more unless somebody does.
  void include(const Settings& settings, const Compiler& compiler, const StringValue& value) {
    std::string text = value.text;
    std::size_t lead = text.starts_with("./") ? 2 : 0;
    if (lead) text.erase(0, 2);
    while (text.ends_with("/")) text.pop_back();
    std::string filter = "*";
    std::size_t deep = text.find("**");
    bool plain = false;
    if (deep != std::string::npos) {
      std::string rest = text.substr(deep + 2);
      if (rest.starts_with("/")) rest.erase(0, 1);
      if (deep == 0 || has_wildcard(text.substr(0, deep)) || rest.find('/') != std::string::npos) {
        add_pattern_head(settings, value, lead);
        return;
      }
      if (!rest.empty()) filter = rest;
      text.resize(deep - 1);
    } else if (has_wildcard(text)) {
      plain = true;
    } else {
      auto place = RelPath::resolve(settings.folder(), text);
      if (!place || place->is_root() || *place == settings.folder()) return;
      if (!tree_.is_folder(*place)) {
        if (!tree_.is_file(*place)) return;
        Reference file = reference_to(settings, value, Role::source, text_of(settings, value, lead));
        file.construct = {{settings.file, list_of(compiler, value)}};
        file.lead_to(*place);
        out_.add(std::move(file));
        return;
      }
    }
    if (text.find_first_not_of("./") == std::string::npos) return;
    Reference reference =
        reference_to(settings, value, Role::pattern, text_of(settings, value, lead, lead + text.size()));
    reference.kind = GlobPattern{};
    reference.in_list = true;
    reference.may_gain = true;
    reference.construct = {{settings.file, list_of(compiler, value)}};
    if (!plain) reference.kind = GlobPattern{GlobPattern::Kind::deep, filter, text_of(settings, value)};
    std::vector<RelPath> found =
        plain ? files_at(settings.folder(), text) : files_below(settings.folder(), text + "/" + filter);
    reference.targets.reserve(found.size());
    for (const RelPath& file : found) {
      if (is_member(compiler, file)) reference.lead_to(file);
    }
    // Of files that the compiler does not know, such as components, the folder is followed.
    if (reference.targets.empty()) {
      std::size_t wild = text.find_first_of("*?");
      std::string head = wild == std::string::npos ? text : text.substr(0, text.rfind('/', wild));
      auto folder = RelPath::resolve(settings.folder(), head);
      if (folder && !tree_.find(*folder))
        out_.unmet({settings.path, value.span, "pattern", value.text, *folder});
      add_pattern_head(settings, value, lead);
      return;
    }
    out_.add(std::move(reference));
  }

  std::vector<RelPath> files_at(const RelPath& base, const std::string& pattern) const {
    std::vector<RelPath> out = match_paths(tree_, base, pattern);
    std::erase_if(out, [&](const RelPath& file) {
      const Entry* entry = tree_.find(file);
      return !entry || entry->kind != EntryKind::file || entry->ignored;
    });
    return out;
  }

  std::vector<RelPath> files_below(const RelPath& base, const std::string& pattern) const {
    std::vector<RelPath> out = match_deep(tree_, base, pattern);
    InOrder links(tree_.listing().links());
    std::erase_if(out, [&](const RelPath& file) { return links.has(file); });
    return out;
  }

  static bool is_member(const Compiler& compiler, const RelPath& file) {
    return is_typed_source(file) ||
           (compiler.allows_js && (file.extension() == ".js" || file.extension() == ".jsx"));
  }

  // The folder that `paths` are relative to: baseUrl, of this file or of one it extends, else the file's own.
  RelPath paths_base(const Compiler& compiler) const {
    Given base = inherited(compiler, "baseUrl");
    return base.value ? base.place : compiler.path.parent();
  }

  Given inherited(const Compiler& compiler, std::string_view name, std::size_t depth = 0) const {
    if (const StringValue* value = compiler.option(name)) {
      auto place = RelPath::resolve(compiler.path.parent(), value->text);
      return place ? Given{value, *place} : Given{};
    }
    for (auto parent = compiler.parents.rbegin(); parent != compiler.parents.rend() && depth < 16; ++parent) {
      auto at = compilers_.find(*parent);
      if (at == compilers_.end()) continue;
      if (Given given = inherited(at->second, name, depth + 1); given.value) return given;
    }
    return {};
  }

  const Compiler* holder_of(const Compiler& compiler, std::string_view option, std::size_t depth = 0) const {
    if (compiler.has("compilerOptions", option)) return &compiler;
    for (auto parent = compiler.parents.rbegin(); parent != compiler.parents.rend() && depth < 16; ++parent) {
      auto at = compilers_.find(*parent);
      if (at == compilers_.end()) continue;
      if (const Compiler* found = holder_of(at->second, option, depth + 1)) return found;
    }
    return nullptr;
  }

  // What a value of `paths` names: a folder before its star, or a module whose ending may be left out.
  void path_alias(const Settings& settings, const Compiler& compiler, const StringValue& value) {
    RelPath base = paths_base(compiler);
    std::size_t star = value.text.find('*');
    std::size_t end = star == std::string::npos ? value.text.size() : star;
    if (star != std::string::npos) {
      std::size_t slash = value.text.rfind('/', star);
      if (slash == std::string::npos) return;  // "*": whatever the base holds
      end = slash;
    }
    std::string text = value.text.substr(0, end);
    if (text.find_first_not_of("./") == std::string::npos) return;
    auto place = RelPath::resolve(base, text);
    if (!place || place->is_root()) return;
    Reference reference =
        reference_to(settings, value, star == std::string::npos ? Role::source : Role::search_root,
                     text_of(settings, value, 0, end));
    if (base != settings.folder()) reference.base = {base, kNoFile, Space::tree};
    RelPath found = *place;
    if (!tree_.find(found)) {
      bool any = false;
      for (const char* ending :
           {".ts", ".tsx", ".d.ts", ".js", ".jsx", "/index.ts", "/index.tsx", "/index.d.ts"}) {
        RelPath file = RelPath::from_normal(place->str() + ending);
        if (any || !tree_.is_file(file)) continue;
        reference.text.append(TracedText::plain(ending));
        found = file;
        any = true;
      }
      if (!any) return;
    }
    if (tree_.find(found)->ignored) return;
    reference.lead_to(found);
    out_.add(std::move(reference));
  }

  // The aliases that files below the settings' folder may use.
  void scope(const Compiler& compiler) {
    RelPath folder = compiler.path.parent();
    if (const Compiler* holder = holder_of(compiler, "paths")) {
      RelPath base = paths_base(*holder);
      for (const StringValue& value : holder->values) {
        bool is_path =
            value.path.size() == 4 && value.path[0] == "compilerOptions" && value.path[1] == "paths";
        if (!is_path) continue;
        add_alias(compiler.path, folder, value.path[2], base, value.text);
      }
    }
    if (Given base = inherited(compiler, "baseUrl"); base.value) {
      Alias alias;
      alias.scope = folder;
      alias.settings = compiler.path;
      alias.open = true;
      alias.place = base.place;
      out_.graph().aliases.push_back(alias);
    }
  }

  void add_alias(const RelPath& settings, const RelPath& scope, const std::string& name, const RelPath& base,
                 const std::string& value) {
    Alias alias;
    alias.scope = scope;
    alias.settings = settings;
    std::size_t star = name.find('*');
    alias.head = name.substr(0, star);
    alias.open = star != std::string::npos;
    if (alias.open) alias.tail = name.substr(star + 1);
    std::size_t value_star = value.find('*');
    std::string head = value.substr(0, value_star);
    std::size_t slash = head.rfind('/');
    std::string folder = value_star == std::string::npos ? value
                         : slash == std::string::npos    ? ""
                                                         : head.substr(0, slash);
    auto place = RelPath::resolve(base, folder);
    if (!place || (alias.open && value_star == std::string::npos)) return;
    alias.place = *place;
    if (alias.open) {
      alias.before = slash == std::string::npos ? head : head.substr(slash + 1);
      alias.after = value.substr(value_star + 1);
    }
    out_.graph().aliases.push_back(alias);
  }

  // Where the compiler puts what it makes.
  void output(const Compiler& compiler) {
    if (!compiler.emits) return;
    Given root = inherited(compiler, "rootDir");
    std::vector<RelPath> folders;
    for (const char* option : {"outDir", "declarationDir"}) {
      if (Given given = inherited(compiler, option); given.value) folders.push_back(given.place);
    }
    if (folders.empty()) return;
    RelPath sources = root.value ? root.place : compiler.path.parent();
    bool inferred = !root.value && !compiler.composite;
    if (inferred) {
      auto common = common_folder(compiler, folders);
      if (!common) return;
      sources = *common;
    }
    for (const RelPath& folder : folders)
      out_.graph().outputs.push_back({compiler.path, sources, folder, inferred});
  }

  // The deepest folder that holds all sources of a compilation.
  std::optional<RelPath> common_folder(const Compiler& compiler, const std::vector<RelPath>& outputs) const {
    std::vector<RelPath> members;
    RelPath home = compiler.path.parent();
    bool any_list = false;
    std::vector<std::string> excluded;
    for (const StringValue& value : compiler.values) {
      if (value.path.empty()) continue;
      if (value.path[0] == "exclude") excluded.push_back(value.text);
      if (value.path[0] != "include" && value.path[0] != "files") continue;
      any_list = true;
      collect(compiler, home, value.text, members);
    }
    if (!any_list) collect(compiler, home, "**/*", members);
    std::optional<RelPath> out;
    for (const RelPath& file : members) {
      bool is_out = std::any_of(outputs.begin(), outputs.end(),
                                [&](const RelPath& folder) { return file.is_within(folder); }) ||
                    std::any_of(excluded.begin(), excluded.end(), [&](const std::string& text) {
                      return FolderPattern(text).takes(home, file);
                    });
      if (is_out || is_declaration(file)) continue;
      RelPath folder = file.parent();
      if (!out) out = folder;
      while (!folder.is_within(*out)) *out = out->parent();
    }
    return out;
  }

  void collect(const Compiler& compiler, const RelPath& home, const std::string& text,
               std::vector<RelPath>& out) const {
    FolderPattern pattern(text);
    for (const RelPath& file : tree_.files()) {
      if (pattern.takes(home, file) && is_member(compiler, file)) out.push_back(file);
    }
  }

  const TreeReader& tree_;
  std::uint8_t self_;
  GraphBuilder& out_;
  std::map<RelPath, Compiler> compilers_;
  std::vector<RelPath> order_;
  std::vector<Bytes> kept_;
};

class CompilerSettingsFormat : public Format,
                               public ListWords,
                               public DefinesScope,
                               public Consequences,
                               public AliasTables {
 public:
  std::string_view name() const override { return "compiler settings"; }
  ScopeSet gives() const override { return Scope::compiler_names | Scope::outputs; }
  bool defines_scope(const RelPath& path) const override { return is_compiler_settings(path); }

  bool claims(const RelPath& path) const override { return is_compiler_settings(path); }

  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out = web_settings::shifted_outputs(before, planned, moves);
    std::vector<Blocker> left = web_settings::left_uncompiled(before, planned, moves);
    std::move(left.begin(), left.end(), std::back_inserter(out));
    return out;
  }
  Written name_folder(const ClaimedTree& before, const std::string& name,
                      const RelPath& folder) const override {
    return {web_settings::name_in_compiler(before.tree, name, folder), {}};
  }

  void read(const Reading& in) const override {
    in.count(CompilerSettingsReader(in.tree, in.self, in.out).run(in.files));
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    return json::escaped(text);
  }
  Span word_at(std::string_view, Span literal) const override { return {literal.begin - 1, literal.end + 1}; }
  std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text) const override {
    return json::beside(bytes, word, text);
  }
  std::optional<Span> without(std::string_view bytes, Span word) const override {
    return json::without(bytes, word);
  }
};

}  // namespace

std::unique_ptr<Format> compiler_settings_format() {
  return std::make_unique<CompilerSettingsFormat>();
}

}  // namespace yc
