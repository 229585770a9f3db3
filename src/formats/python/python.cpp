#include "formats/python/python.h"

#include <set>

#include "base/all_cores.h"
#include "base/name_search.h"
#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/words.h"
#include "formats/python/collected_tests.h"
#include "formats/python/import_order.h"
#include "formats/python/new_packages.h"
#include "formats/python/path_climbs.h"
#include "formats/python/path_constants.h"
#include "formats/python/python_references.h"
#include "formats/python/test_surroundings.h"

namespace yc {

namespace {

using python::PythonFacts;

// A second shelf of the cache: whether a file is started by itself.
constexpr std::uint8_t kStartedShelf = 0x80;

bool may_be_started(const std::string& text) {
  return text.starts_with("#!") || text.find("__main__") != std::string::npos;
}

std::vector<std::string> names_of_module(const Focus* focus) {
  std::set<std::string> heads;
  if (!focus) return {};
  for (const std::string& stem : focus->stems) heads.insert(stem.substr(0, stem.find('.', 1)));
  // What is imported by a name that is put together, and paths that are, where anything but a module moves.
  heads.insert({"import_module(", "__import__(", "iter_modules(", "walk_packages(", "glob("});
  bool paths = std::any_of(focus->files.begin(), focus->files.end(),
                           [](const RelPath& path) { return !path.extension().starts_with(".py"); });
  if (paths) heads.insert({"os.path", "pathlib", "Path(", "open(", "files(", "get_data("});
  if (paths) heads.insert(focus->left.begin(), focus->left.end());
  if (heads.contains("__init__")) heads.insert(". import");
  return {heads.begin(), heads.end()};
}

bool is_python(const RelPath& path) {
  return path.extension() == ".py" || path.extension() == ".pyi";
}

// What Sphinx starts to learn its settings: conf.py beside the documents.
bool is_documents_settings(const TreeReader& tree, const RelPath& path) {
  if (path.name() != "conf.py") return false;
  return tree.is_file(path.parent() / "index.rst") || tree.is_file(path.parent() / "index.md");
}

class PythonFormat : public Format,
                     public Spellings,
                     public NeededChanges,
                     public Consequences,
                     public Constants,
                     public ShortNames {
 public:
  std::string_view name() const override { return "python"; }
  ScopeSet gives() const override { return Scope::module_roots | Scope::programs; }
  ScopeSet needs() const override { return Scope::module_roots | Scope::products; }
  bool reads_sources() const override { return true; }

  bool claims(const RelPath& path) const override {
    return is_python(path) || path.extension() == ".rst" || path.extension() == ".md" ||
           path.extension() == ".txt";
  }

  void read(const Reading& in) const override {
    const TreeReader& tree = in.tree;
    FactsCache& cache = in.cache;
    std::uint8_t self = in.self;
    GraphBuilder& out = in.out;
    NameSearch search(names_of_module(out.focus()));
    std::vector<RelPath> files;
    for (const RelPath& path : in.files) {
      if (is_python(path) && tree.is_editable(path)) files.push_back(path);
    }
    in.count(files.size());
    if (files.empty()) return;
    std::vector<std::shared_ptr<const PythonFacts>> facts(files.size());
    std::vector<char> started(files.size()), adds(files.size());
    on_all_cores(files.size(), [&](std::size_t i) {
      auto bytes = tree.read(files[i]);
      if (!bytes) return;
      bool maybe = *cache.get<bool>(self | kStartedShelf, *bytes,
                                    [](const std::string& text) { return may_be_started(text); });
      adds[i] = (*bytes)->find("sys.path") != std::string::npos;
      bool wanted = !out.focus() || out.wants(files[i]) ||
                    cache.verdict(files[i], (*bytes)->size(), [&] { return search.finds_any(**bytes); });
      if (!wanted && !maybe) return;
      auto all = python::facts_of(tree, cache, self, files[i]);
      started[i] = all && all->is_script;
      if (wanted) facts[i] = std::move(all);
    });
    for (std::size_t i = 0; i < files.size(); ++i) {
      if (started[i] || python::is_started_by_name(files[i]) || is_documents_settings(tree, files[i]))
        out.graph().started.insert(files[i]);
    }
    for (const RelPath& path : files) {
      if (path.name() == "__init__.py") out.graph().holdings[path.parent()].library = true;
      if (path.name() == "__main__.py") out.graph().holdings[path.parent()].program = true;
    }
    note_programs(tree, files, facts, out);
    add_roots(in, files, adds);
    const Scopes scopes = in.scopes_by_now();
    python::PythonResolver resolver(tree, scopes);
    python::Constants constants;
    for (std::size_t i = 0; i < files.size(); ++i) {
      if (!facts[i]) continue;
      auto bytes = tree.read(files[i]);
      python::Source source{tree, cache, self, resolver, files[i], *bytes, facts[i]};
      python::emit_imports(source, out);
      python::emit_paths(source, constants, out);
    }
    read_documents(in, resolver, search);
  }

  // Documents show how a package is used, and test runners run what they show.
  static void read_documents(const Reading& in, const python::PythonResolver& resolver,
                             const NameSearch& search) {
    for (const RelPath& path : in.files) {
      if (is_python(path) || !in.tree.is_editable(path)) continue;
      auto bytes = in.tree.read(path);
      if (!bytes || (*bytes)->find(">>> ") == std::string::npos) continue;
      if (in.out.focus() && !search.finds_any(**bytes)) continue;
      python::emit_sessions({in.tree, in.cache, in.self, resolver, path, *bytes, nullptr}, in.out);
    }
  }

  static void add_roots(const Reading& in, const std::vector<RelPath>& files, const std::vector<char>& adds) {
    const Scopes scopes = in.scopes_by_now();
    python::PythonResolver resolver(in.tree, scopes);
    python::Constants constants;
    std::vector<ModuleRoot> roots;
    for (std::size_t i = 0; i < files.size(); ++i) {
      auto all = adds[i] ? python::facts_of(in.tree, in.cache, in.self, files[i]) : nullptr;
      auto bytes = all ? in.tree.read(files[i]) : Result<Bytes>(Error{});
      if (!bytes) continue;
      python::Source source{in.tree, in.cache, in.self, resolver, files[i], *bytes, all};
      for (RelPath& folder : python::added_roots(source, constants, in.out))
        roots.push_back({std::move(folder), files[i].parent(), files[i]});
    }
    std::vector<ModuleRoot>& known = in.out.graph().module_roots;
    known.insert(known.end(), roots.begin(), roots.end());
  }

  // A file in no package, which nothing that was read imports, is a program too.
  static void note_programs(const TreeReader& tree, const std::vector<RelPath>& files,
                            const std::vector<std::shared_ptr<const PythonFacts>>& facts, GraphBuilder& out) {
    std::unordered_set<std::string> imported;
    for (const auto& one : facts) {
      if (!one) continue;
      for (const python::Import& statement : one->imports) {
        imported.insert(last_part(statement.module));
        for (const python::ImportName& name : statement.names) imported.insert(last_part(name.name));
      }
    }
    for (std::size_t i = 0; i < files.size(); ++i) {
      const RelPath& path = files[i];
      bool asked = facts[i] && out.wants(path) && path.extension() == ".py";
      if (!asked || tree.is_file(path.parent() / "__init__.py")) continue;
      std::string stem(path.name().substr(0, path.name().size() - 3));
      if (!imported.contains(stem)) out.graph().started.insert(path);
    }
  }
  static std::string last_part(const std::string& dotted) {
    std::size_t dot = dotted.rfind('.');
    return dot == std::string::npos ? dotted : dotted.substr(dot + 1);
  }

  void add_short_names(const RelPath& path, std::unordered_set<std::string>& out) const override {
    RelPath folder = path.parent();
    if (path.name().starts_with("__init__.") && !folder.is_root()) out.emplace(folder.name());
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    return python::python_ways(need);
  }
  std::vector<Proposal> late_proposals(const RewriteRequest& need) const override {
    return python::joined_ways(need);
  }
  std::optional<std::string> climbing(std::string_view expression, int more) const override {
    return python::climbing(expression, more);
  }
  std::optional<Reason> why_not(const ReferenceGraph& graph, const Reference& reference, const RelPath&,
                                const RelPath&) const override {
    if (reference.role != Role::module || reference.construct.empty() ||
        reference.construct.front().file == kNoFile)
      return std::nullopt;
    const RelPath& user = graph.files.path(reference.construct.front().file);
    if (!graph.started.contains(user)) return std::nullopt;
    return Reason{
        "is found from the folder that the program is started in, and would not be from the new one",
        "leave programs where they are started, or say in the project's settings where modules are"};
  }
  std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                     const std::vector<const Reference*>& references, const std::string& name,
                                     const RelPath& folder) const override {
    return python::through_constant(tree, graph, references, name, folder);
  }
  std::vector<Edit> in_loader(const TreeReader& tree, const ReferenceGraph& graph,
                              const std::vector<const Reference*>& references, const std::string& name,
                              const RelPath& folder) const override {
    return python::in_loader(tree, graph, references, name, folder);
  }
  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out = python::new_import_failures(before, planned, moves);
    std::vector<Blocker> tests = python::uncollected_tests(before, moves);
    std::move(tests.begin(), tests.end(), std::back_inserter(out));
    std::vector<Blocker> around = python::changed_surroundings(before, planned, moves);
    std::move(around.begin(), around.end(), std::back_inserter(out));
    return out;
  }
  std::map<RelPath, std::string> needed_files(const TreeReader& tree, const MoveSet& moves) const override {
    return python::needed_packages(tree, moves);
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (style == python::kNameAlone && (text.empty() || text[0] == '.' || text.find('/') != text.npos))
      return std::nullopt;
    if (text.find_first_of("'\"\\\n\r{}") != std::string_view::npos) return std::nullopt;
    return std::string(text);
  }
};

}  // namespace

std::unique_ptr<Format> python_format() {
  return std::make_unique<PythonFormat>();
}

}  // namespace yc
