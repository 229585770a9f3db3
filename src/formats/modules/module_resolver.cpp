#include "formats/modules/module_resolver.h"

#include <algorithm>
#include <array>

#include "formats/outputs.h"

namespace yc::modules {

namespace {

// A source, what compilers make of it, and how specifiers may write it.
struct Ending {
  std::string_view source, output, declaration;
};
constexpr std::array<Ending, 4> kCompiled = {{{".ts", ".js", ".d.ts"},
                                              {".tsx", ".js", ".d.ts"},
                                              {".mts", ".mjs", ".d.mts"},
                                              {".cts", ".cjs", ".d.cts"}}};
constexpr std::array<std::string_view, 14> kLeftOut = {".ts",    ".tsx",  ".d.ts", ".mts",   ".cts",
                                                       ".js",    ".jsx",  ".mjs",  ".cjs",   ".d.mts",
                                                       ".d.cts", ".json", ".vue",  ".svelte"};
// Of one module for several platforms: "gauge.ios.tsx" is meant by "./gauge".
constexpr std::array<std::string_view, 5> kPlatforms = {".ios", ".android", ".native", ".web", ".windows"};

bool is_code(const RelPath& path) {
  std::string_view ending = path.extension();
  return ending == ".js" || ending == ".jsx" || ending == ".mjs" || ending == ".cjs";
}

}  // namespace

bool is_declaration(const RelPath& path) {
  return path.str().ends_with(".d.ts") || path.str().ends_with(".d.mts") || path.str().ends_with(".d.cts");
}

bool may_be_left_out(std::string_view ending) {
  return std::find(kLeftOut.begin(), kLeftOut.end(), ending) != kLeftOut.end();
}

std::vector<std::string_view> left_out_endings() {
  std::vector<std::string_view> out(kLeftOut.begin(), kLeftOut.end());
  out.insert(out.end(), {"/index.ts", "/index.tsx", "/index.js"});
  return out;
}

std::string written_for(std::string_view source_ending) {
  for (const Ending& ending : kCompiled) {
    if (ending.source == source_ending || ending.declaration == source_ending)
      return std::string(ending.output);
  }
  return "";
}

ModuleResolver::ModuleResolver(const TreeReader& tree, const Scopes& scopes) : tree_(tree), scopes_(scopes) {
  for (const Alias& alias : scopes.aliases) {
    if (!alias.styles) aliases_.push_back(&alias);
  }
  // The nearest scope, then a whole name, then the longest head counts first.
  std::stable_sort(aliases_.begin(), aliases_.end(), [](const Alias* a, const Alias* b) {
    if (a->open != b->open) return !a->open;
    if (a->head.size() != b->head.size()) return a->head.size() > b->head.size();
    return a->scope.str().size() > b->scope.str().size();
  });
}

bool ModuleResolver::is_module(const RelPath& path) const {
  const Entry* entry = tree_.find(path);
  return entry && entry->kind != EntryKind::folder && !tree_.is_folder(path);
}

std::vector<RelPath> ModuleResolver::at_place(const RelPath& path, bool typed) const {
  std::vector<RelPath> out;
  const std::string& text = path.str();
  // "./tide.js" in a typed source means tide.ts, and what is written for it may be there too.
  for (const Ending& ending : kCompiled) {
    bool asks = text.ends_with(ending.output) || (ending.output == ".js" && text.ends_with(".jsx"));
    if (!asks || (is_module(path) && !typed)) continue;
    std::string stem = text.substr(0, text.rfind('.'));
    for (std::string_view other : {ending.source, ending.declaration}) {
      RelPath source = RelPath::from_normal(stem + std::string(other));
      if (is_module(source) && std::find(out.begin(), out.end(), source) == out.end()) out.push_back(source);
      if (!out.empty()) break;
    }
  }
  if (is_module(path)) {
    const Entry* entry = tree_.find(path);
    if (out.empty() || !entry->ignored) out.push_back(path);
    // Declarations stand beside the code that they describe.
    std::string declared = text.substr(0, text.rfind('.')) + ".d.ts";
    bool code = text.ends_with(".js") || text.ends_with(".jsx");
    RelPath declaration = RelPath::from_normal(declared);
    if (code && is_module(declaration) && std::find(out.begin(), out.end(), declaration) == out.end())
      out.push_back(declaration);
  }
  return out;
}

std::vector<RelPath> ModuleResolver::files_at(const RelPath& path, bool typed) const {
  std::vector<RelPath> out = at_place(path, typed);
  if (!out.empty()) return out;
  const std::string& text = path.str();
  std::vector<RelPath> there, ignored;
  for (std::string_view ending : kLeftOut) {
    RelPath file = RelPath::from_normal(text + std::string(ending));
    if (is_module(file)) (tree_.find(file)->ignored ? ignored : there).push_back(file);
  }
  // The first one is meant; of code and the declarations that stand beside it, both.
  if (!there.empty()) {
    out.push_back(there.front());
    auto other = std::find_if(there.begin(), there.end(), [&](const RelPath& file) {
      return is_declaration(there.front()) ? is_code(file) : is_code(there.front()) && is_declaration(file);
    });
    if (other != there.end()) out.push_back(*other);
  }
  for (std::string_view platform : kPlatforms) {
    for (std::string_view ending : {".ts", ".tsx", ".js", ".jsx"}) {
      RelPath file = RelPath::from_normal(text + std::string(platform) + std::string(ending));
      if (is_module(file)) out.push_back(file);
    }
  }
  if (!out.empty()) return out;
  if (!ignored.empty()) return {ignored.front()};
  if (!tree_.is_folder(path)) return {};
  // What the package manifest of the folder says, else its index.
  auto entry = scopes_.entries.find(path);
  if (entry != scopes_.entries.end() && entry->second != path) {
    std::vector<RelPath> named = files_at(entry->second, typed);
    if (named.empty()) named = sources_of(entry->second);
    if (!named.empty()) return named;
  }
  return path.name() == "index" ? std::vector<RelPath>() : files_at(path / "index", typed);
}

std::vector<RelPath> ModuleResolver::sources_of(const RelPath& output) const {
  if (auto source = source_of(tree_, scopes_, output)) return {*source};
  if (!output.extension().empty()) return {};
  // A module whose ending is left out, or the index of a folder.
  for (const OutputFolder& folder : scopes_.outputs) {
    if (!output.is_within(folder.outputs) || folder.outputs == folder.sources) continue;
    std::vector<RelPath> files = files_at(folder.sources / output.below(folder.outputs), true);
    if (!files.empty()) return files;
  }
  return {};
}

// What lies there as the last build left it is known by its source, as it is where nothing was built yet.
std::vector<RelPath> ModuleResolver::sources_if_made(const RelPath& place, std::vector<RelPath> found) const {
  bool is_tracked = std::any_of(found.begin(), found.end(), [&](const RelPath& file) {
    const Entry* entry = tree_.find(file);
    return entry && !entry->ignored;
  });
  if (is_tracked) return found;
  std::vector<RelPath> sources = sources_of(place);
  return sources.empty() ? found : sources;
}

bool ModuleResolver::is_alias(std::string_view specifier) const {
  return std::any_of(aliases_.begin(), aliases_.end(),
                     [&](const Alias* alias) { return !alias->open && alias->head == specifier; });
}

std::vector<RelPath> ModuleResolver::by_aliases(const RelPath& user, const std::string& text, bool typed,
                                                Resolution& out) const {
  std::vector<RelPath> found;
  RelPath settings, scope;
  std::string head;
  for (const Alias* alias : aliases_) {
    if (!user.is_within(alias->scope)) continue;
    // Of one settings file the first that leads somewhere is meant; of several of one folder, each one's.
    if (!found.empty() && (alias->settings == settings || alias->scope != scope || alias->head != head))
      continue;
    RelPath place = alias->place;
    std::string lead = alias->head;
    if (!alias->open) {
      if (text != alias->head) continue;
    } else {
      if (text.size() < alias->head.size() + alias->tail.size() || !text.starts_with(alias->head) ||
          !text.ends_with(alias->tail))
        continue;
      std::string star =
          text.substr(alias->head.size(), text.size() - alias->head.size() - alias->tail.size());
      auto at = RelPath::resolve(alias->place, alias->before + star + alias->after);
      if (!at) continue;
      place = *at;
    }
    std::vector<RelPath> files = sources_if_made(place, files_at(place, typed));
    if (files.empty()) {
      // Names without a head are those of installed packages too.
      if (!alias->head.empty() && !out.wanted) out.wanted = place;
      continue;
    }
    if (found.empty()) {
      settings = alias->settings, scope = alias->scope, head = alias->head;
      FileIndex anchor = kNoFile;
      out.search = Base{alias->place, anchor, Space::tree};
      out.lead = lead;
    }
    for (const RelPath& file : files) {
      if (std::find(found.begin(), found.end(), file) == found.end()) found.push_back(file);
    }
  }
  return found;
}

// "rootDirs" of the TSConfig reference: what lies at one place below several folders lies in one folder.
std::vector<RelPath> ModuleResolver::by_merged_folders(const RelPath& user, const std::string& text,
                                                       bool typed, Resolution& out) const {
  RelPath folder = user.parent();
  for (const MergedFolders& merged : scopes_.merged_folders) {
    if (!user.is_within(merged.scope)) continue;
    for (const RelPath& own : merged.folders) {
      if (!folder.is_within(own)) continue;
      for (const RelPath& other : merged.folders) {
        RelPath twin = folder == own ? other : other / folder.below(own);
        auto place = other == own ? std::nullopt : RelPath::resolve(twin, text);
        std::vector<RelPath> files = place ? files_at(*place, typed) : std::vector<RelPath>();
        if (files.empty()) continue;
        out.search = Base{twin, kNoFile, Space::tree};
        return files;
      }
    }
  }
  return {};
}

Resolution ModuleResolver::find(const RelPath& user, const std::string& text, bool plain) const {
  Resolution out;
  bool typed = user.extension() == ".ts" || user.extension() == ".tsx" || user.extension() == ".mts" ||
               user.extension() == ".cts" || user.extension() == ".vue" || user.extension() == ".svelte";
  bool relative = text == "." || text == ".." || text.starts_with("./") || text.starts_with("../");
  if (relative || plain) {
    if (auto place = RelPath::resolve(user.parent(), text)) {
      out.targets = plain && !relative ? at_place(*place, typed) : files_at(*place, typed);
      if (text.ends_with("/") && out.targets.empty()) out.targets = files_at(*place, typed);
      out.targets = sources_if_made(*place, std::move(out.targets));
    }
    if (out.targets.empty() && relative) out.targets = by_merged_folders(user, text, typed, out);
    if (!out.targets.empty() || relative) return out;
  }
  if (text.starts_with("/")) {
    // From the folder that is served: the nearest package's, or one within it whose files are served as they
    // are.
    for (RelPath up = user.parent();; up = up.parent()) {
      bool serves = up.is_root() || tree_.is_file(up / "package.json") || tree_.is_file(up / "index.html");
      for (const char* served : {"", "public", "static"}) {
        RelPath folder = *served ? up / served : up;
        auto place = serves ? RelPath::resolve(folder, text.substr(1)) : std::nullopt;
        if (!place || place->is_root()) continue;
        out.targets = files_at(*place, typed);
        if (out.targets.empty()) continue;
        out.search = Base{folder, kNoFile, Space::tree};
        out.lead = "/";
        return out;
      }
      if (up.is_root()) break;
    }
    out.outside = true;
    return out;
  }
  out.targets = by_aliases(user, text, typed, out);
  out.outside = out.targets.empty();
  return out;
}

// Of code and the declarations beside it, declarations use the one and programs the other.
Resolution ModuleResolver::resolve(const RelPath& user, const std::string& text, bool plain) const {
  Resolution out = find(user, text, plain);
  bool declared = std::any_of(out.targets.begin(), out.targets.end(), is_declaration);
  bool coded = std::any_of(out.targets.begin(), out.targets.end(), is_code);
  if (!declared || !coded) return out;
  if (is_declaration(user)) std::erase_if(out.targets, is_code);
  if (is_code(user)) std::erase_if(out.targets, is_declaration);
  return out;
}

}  // namespace yc::modules
