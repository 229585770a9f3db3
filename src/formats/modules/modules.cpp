#include "formats/modules/modules.h"

#include <algorithm>
#include <set>

#include "base/all_cores.h"
#include "base/name_search.h"
#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/words.h"
#include "formats/glued_paths/constant_folder.h"
#include "formats/glued_paths/path_constants.h"
#include "formats/literal_paths.h"
#include "formats/modules/embedded.h"
#include "formats/modules/forwarding_modules.h"
#include "formats/modules/module_climbs.h"
#include "formats/modules/module_kinds.h"
#include "formats/modules/module_references.h"
#include "formats/modules/service_workers.h"
#include "formats/site_paths.h"
#include "tree/text_signatures.h"

namespace yc {

namespace {

using modules::ModuleFacts;

// Whether any text of a file could name something that moves: it holds one of the names, or a specifier that
// is put together when the program runs.
class NameFilter {
 public:
  explicit NameFilter(const Focus* focus) : search_(names_of(focus)), active_(focus != nullptr) {}
  bool is_active() const { return active_; }
  bool lets_through(std::string_view bytes) const { return search_.finds_any(bytes); }
  const NameSearch& search() const { return search_; }

 private:
  static std::vector<std::string> names_of(const Focus* focus) {
    if (!focus) return {};
    std::vector<std::string> out = {"import(`", "require(`", "(`./", " `./", "`../", "/' +", "/\" +"};
    // The stem of "tide.test" is found where "tide" is.
    std::set<std::string> heads;
    for (const std::string& stem : focus->stems) heads.insert(stem.substr(0, stem.find('.', 1)));
    out.insert(out.end(), heads.begin(), heads.end());
    // Patterns and paths that go on from the module's own place.
    out.insert(out.end(), {"__dirname", "import.meta.url", "import.meta.dirname", "/*.", "/*'", "/*\""});
    // A folder stands for its index, as in "..".
    if (heads.contains("index")) out.insert(out.end(), {"./'", "./\"", "'.'", "\".\"", "..'", "..\""});
    // So does a name that settings give it.
    if (heads.contains("index")) out.insert(out.end(), {"'@", "\"@", "'#", "\"#", "'~", "\"~"});
    return out;
  }

  NameSearch search_;
  bool active_;
};

struct ModuleFiles {
  std::vector<RelPath> files;
  std::size_t skipped = 0;
};

// The files of this format; of those that prepare() looked at the ones that it let through or that the focus
// is on.
ModuleFiles module_files(const Reading& in) {
  const std::vector<RelPath>* passed = in.cache.passed(in.self, in.out.focus());
  std::vector<RelPath> wanted;
  if (passed) {
    wanted = *passed;
    wanted.insert(wanted.end(), in.out.focus()->files.begin(), in.out.focus()->files.end());
    std::sort(wanted.begin(), wanted.end());
    wanted.erase(std::unique(wanted.begin(), wanted.end()), wanted.end());
    std::erase_if(wanted, [&](const RelPath& path) {
      return !std::binary_search(in.files.begin(), in.files.end(), path);
    });
  }
  ModuleFiles found;
  found.skipped = passed ? in.files.size() - wanted.size() : 0;
  for (const RelPath& path : passed ? wanted : in.files) {
    if (in.tree.is_editable(path)) found.files.push_back(path);
  }
  return found;
}

// What a module says; nothing for one that `filter`, if given, holds back. Both readings of a plan ask for
// the same names.
std::shared_ptr<const ModuleFacts> facts_of_module(const TreeReader& tree, FactsCache& cache,
                                                   std::uint8_t self, const RelPath& path,
                                                   const NameFilter* filter) {
  const Entry* entry = tree.find(path);
  if (filter && entry && cache.known_verdict(path, entry->size) == std::optional(false)) return nullptr;
  auto bytes = tree.read(path);
  if (!bytes) return nullptr;
  if (filter && !cache.verdict(path, (*bytes)->size(), [&] { return filter->lets_through(**bytes); }))
    return nullptr;
  return cache.get<ModuleFacts>(self, *bytes, [&](const std::string& text) {
    // Sets of tiles bear the ending of typed sources with elements.
    if (text.starts_with("<?xml")) return ModuleFacts();
    auto dialect = modules::dialect_of(path);
    return dialect ? modules::scan_glued_module(text, *dialect) : modules::scan_embedded(text);
  });
}

// "tide.test.ts", "tide.spec.js", and what stands in a folder "__tests__".
bool is_test(const RelPath& path) {
  if (!modules::dialect_of(path)) return false;
  std::string_view name = path.name();
  name = name.substr(0, name.rfind('.'));
  RelPath folder = path.parent();
  std::vector<std::string_view> folders = folder.components();
  return name.ends_with(".test") || name.ends_with(".spec") ||
         std::find(folders.begin(), folders.end(), "__tests__") != folders.end();
}

// From one reading to the next.
struct KeptModules {
  std::vector<RelPath> files;
  std::size_t skipped = 0;
  std::vector<std::shared_ptr<const ModuleFacts>> facts;  // of those that could name something that moves
  const Focus* focus = nullptr;
  bool is_filled = false;
};

// The constants of other modules that the texts of these are glued to.
glued_paths::PathConstants constants_of(const TreeReader& tree, FactsCache& cache, std::uint8_t self,
                                        const KeptModules& kept, const GraphBuilder& out) {
  glued_paths::UnknownNames unknown;
  bool any_loader = false;
  for (std::size_t i = 0; i < kept.files.size(); ++i) {
    if (!kept.facts[i]) continue;
    const glued_paths::GlueFacts& glue = kept.facts[i]->glue;
    any_loader = any_loader || !glue.loaders.empty();
    if (glue.texts.empty() && glue.calls.empty()) continue;
    if (auto bytes = tree.read(kept.files[i]))
      glued_paths::note_unknown_names(kept.facts[i]->glue, **bytes, kept.files[i], out, unknown);
  }
  std::vector<RelPath> files;
  for (const RelPath& path : unknown.empty() && !any_loader ? std::vector<RelPath>() : tree.files()) {
    if (modules::dialect_of(path) && tree.is_editable(path)) files.push_back(path);
  }
  glued_paths::PathConstants constants(tree, std::move(files), [&tree, &cache, self](const RelPath& path) {
    auto facts = facts_of_module(tree, cache, self, path, nullptr);
    return std::shared_ptr<const glued_paths::GlueFacts>(facts, facts ? &facts->glue : nullptr);
  });
  for (std::size_t i = 0; i < kept.files.size(); ++i) {
    if (kept.facts[i]) constants.take_loaders(kept.files[i], kept.facts[i]->glue);
  }
  constants.look_up(unknown);
  return constants;
}

class ModulesFormat : public Format,
                      public Incremental,
                      public Spellings,
                      public Consequences,
                      public Constants,
                      public Forwarding,
                      public ShortNames,
                      public Specifiers {
 public:
  std::string_view name() const override { return "modules"; }
  ScopeSet needs() const override { return kAllNames | Scope::outputs | Scope::products; }
  bool reads_sources() const override { return true; }
  bool claims(const RelPath& path) const override {
    return modules::dialect_of(path) || modules::holds_scripts(path);
  }

  void read(const Reading& in) const override {
    Memory memory;
    read_again(in, memory, [](const RelPath&) { return false; });
  }

  void read_again(const Reading& in, Memory& memory, const IsSame& same) const override {
    const TreeReader& tree = in.tree;
    FactsCache& cache = in.cache;
    std::uint8_t self = in.self;
    GraphBuilder& out = in.out;
    KeptModules& kept = memory.get<KeptModules>();
    bool fresh = !kept.is_filled || kept.focus != out.focus();
    if (fresh) {
      ModuleFiles found = module_files(in);
      kept = KeptModules{std::move(found.files), found.skipped, {}, out.focus(), true};
    }
    kept.facts.resize(kept.files.size());
    in.count(kept.files.size() + kept.skipped);
    NameFilter filter(out.focus());
    on_all_cores(kept.files.size(), [&](std::size_t i) {
      const RelPath& path = kept.files[i];
      if (!fresh && same(path)) return;
      const NameFilter* asked = filter.is_active() && !out.wants(path) ? &filter : nullptr;
      kept.facts[i] = facts_of_module(tree, cache, self, path, asked);
    });
    modules::ModuleResolver resolver(tree, in.scopes);
    glued_paths::PathConstants constants = constants_of(tree, cache, self, kept, out);
    for (std::size_t i = 0; i < kept.files.size(); ++i) {
      if (!kept.facts[i]) continue;
      std::set<std::uint32_t> taken =
          glued_paths::emit_glued(tree, kept.files[i], kept.facts[i]->glue, constants, self, false, out);
      modules::emit_module(resolver, tree, kept.files[i], *kept.facts[i], taken, self, out);
    }
  }

  void prepare(const TreeReader& tree, FactsCache& cache, std::uint8_t self,
               const std::vector<RelPath>& files, const Focus* focus) const override {
    if (!focus) return;
    NameFilter filter(focus);
    const auto* known = dynamic_cast<const KnownTexts*>(&tree);
    std::vector<char> is_held_back =
        known ? known->ruled_out(files, filter.search()) : std::vector<char>(files.size());
    std::vector<std::size_t> open;
    for (std::size_t i = 0; i < files.size(); ++i) {
      if (!is_held_back[i]) open.push_back(i);
    }
    on_all_cores(open.size(), [&](std::size_t at) {
      std::size_t i = open[at];
      thread_local std::string buffer;
      auto text = tree.peek(files[i], buffer);
      if (!text) return;
      is_held_back[i] = !filter.lets_through(*text);
      if (is_held_back[i] || !tree.is_editable(files[i])) return;
      cache.verdict(files[i], text->size(), [] { return true; });
      facts_of_module(tree, cache, self, files[i], &filter);
    });
    std::vector<RelPath> passed;
    for (std::size_t i : open) {
      if (!is_held_back[i]) passed.push_back(files[i]);
    }
    cache.let_through(self, focus, std::move(passed));
  }

  // Test runners find tests by the names of their files.
  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out = modules::changed_module_kinds(before, planned, moves);
    for (std::vector<Blocker> more :
         {left_sites(before, moves, name()), modules::moved_service_workers(before, moves)})
      std::move(more.begin(), more.end(), std::back_inserter(out));
    for (const Move& move : moves.files()) {
      if (!is_test(move.from) || is_test(move.to)) continue;
      out.push_back(
          {"uncollected",
           move.from,
           {},
           std::string(move.from.name()),
           "is found by test runners by its name, and " + move.to.str() + " would not be",
           "keep \".test.\" or \".spec.\" before the ending, or add --accept-unseen if nothing runs "
           "tests by their names"});
    }
    return out;
  }

  std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                     const std::vector<const Reference*>& references, const std::string& name,
                                     const RelPath& folder) const override {
    if (!modules::dialect_of(graph.files.path(standing_of(*references.front()).file))) return {};
    return glued_paths::through_constant(tree, graph, references, name, folder,
                                         glued_paths::Language::script);
  }

  std::vector<Edit> in_loader(const TreeReader& tree, const ReferenceGraph& graph,
                              const std::vector<const Reference*>& references, const std::string& name,
                              const RelPath& folder) const override {
    return glued_paths::in_loader(tree, graph, references, name, folder, glued_paths::Language::script,
                                  [](const RelPath& path) { return modules::dialect_of(path).has_value(); });
  }

  std::optional<std::string> forwarder(const TreeReader& tree, const RelPath& old_path,
                                       const RelPath& new_path, std::string_view bytes) const override {
    return modules::forwarding_module(tree, old_path, new_path, bytes);
  }
  RelPath forwarder_place(const RelPath& old_path, const RelPath& new_path) const override {
    return modules::forwarding_place(old_path, new_path);
  }
  std::optional<RelPath> forwards_to(const RelPath& path, std::string_view bytes) const override {
    return modules::forwarded_to(path, bytes);
  }

  // An index is named by its folder.
  void add_short_names(const RelPath& path, std::unordered_set<std::string>& out) const override {
    RelPath folder = path.parent();
    if (path.name().starts_with("index.") && !folder.is_root()) out.emplace(folder.name());
  }
  std::string as_specified(const ReferenceGraph& graph, FileIndex file, std::string path) const override {
    return modules::as_specified(graph, file, std::move(path));
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    return modules::module_ways(need);
  }

  std::optional<std::string> climbing(std::string_view expression, int more) const override {
    return modules::climbing(expression, more);
  }
  // "node check.js" says no more that its second word is a path than "node check" does.
  std::vector<Proposal> late_proposals(const RewriteRequest& need) const override {
    return need.reference.role == Role::argument ? spelled_as_path(need) : std::vector<Proposal>();
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    // In the place of an expression a path would be code.
    if (style == modules::kExpression) return std::nullopt;
    if (text.find_first_of("'\"`\\\n\r") != std::string_view::npos) return std::nullopt;
    return std::string(text);
  }
};

}  // namespace

std::unique_ptr<Format> modules_format() {
  return std::make_unique<ModulesFormat>();
}

}  // namespace yc
