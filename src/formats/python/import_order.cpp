#include "formats/python/import_order.h"

#include <fmt/format.h>

#include <set>
#include <unordered_map>

#include "formats/python/python_references.h"
#include "words/python.h"

namespace yc::python {

namespace {

constexpr std::size_t kMostEntries = 60, kMostModules = 2000, kDeepestChain = 400;

struct ImportFailure {
  RelPath file;  // that asks
  Import statement;
  RelPath module;  // that is asked
  std::string name;
};

// Runs the import statements of modules, in memory.
class Interpreter {
 public:
  explicit Interpreter(const TreeView& view) : tree_(view.tree), resolver_(view.tree, view.graph) {}

  // What fails first when `entry` is imported and nothing else was.
  std::optional<ImportFailure> import(const RelPath& entry) {
    states_.clear();
    position_.clear();
    failure_.reset();
    load(entry, 0);
    return failure_;
  }

 private:
  enum class State : std::uint8_t { none, running, done };

  std::shared_ptr<const PythonFacts> facts(const RelPath& path) {
    auto [slot, fresh] = facts_.try_emplace(path);
    if (fresh && !tree_.is_folder(path)) {
      if (auto bytes = tree_.read(path))
        slot->second = std::make_shared<const PythonFacts>(scan_python(**bytes));
    }
    return slot->second;
  }

  // The packages that a module is in, from the outermost one. Folders between them need not say that they are
  // some.
  std::vector<RelPath> packages_of(const RelPath& module) const {
    std::vector<RelPath> out;
    RelPath up = module.name() == "__init__.py" ? module.parent().parent() : module.parent();
    for (; !up.is_root(); up = up.parent()) {
      if (tree_.is_file(up / "__init__.py")) out.insert(out.begin(), up / "__init__.py");
    }
    return out;
  }

  void load(const RelPath& module, std::size_t depth) {
    if (failure_ || depth > kDeepestChain || states_.size() > kMostModules || module.extension() != ".py")
      return;
    if (states_[module] != State::none) return;
    for (const RelPath& package : packages_of(module)) load(package, depth + 1);
    if (failure_ || states_[module] != State::none) return;
    states_[module] = State::running;
    if (auto own = facts(module)) {
      std::map<std::string, Bound> bound;  // modules that imports have brought so far
      std::size_t chain = 0;
      for (const Import& statement : own->imports) {
        for (; chain < own->chains.size() && own->chains[chain].span.begin < statement.statement.begin;
             ++chain)
          use(module, *own, own->chains[chain], bound);
        if (failure_) return;
        position_[module] = statement.statement.begin;
        if (!statement.late) run(module, statement, depth, bound);
      }
      for (; chain < own->chains.size() && !failure_; ++chain) use(module, *own, own->chains[chain], bound);
    }
    states_[module] = State::done;
  }

  struct Bound {
    RelPath module;
    const Import* statement = nullptr;
  };

  // pole.level, asked when the module is run.
  void use(const RelPath& module, const PythonFacts& own, const Chain& chain,
           const std::map<std::string, Bound>& bound) {
    std::size_t dot = chain.text.find('.');
    auto known = bound.find(chain.text.substr(0, dot));
    if (known == bound.end() || states_[known->second.module] != State::running) return;
    bool called_later = std::any_of(own.functions.begin(), own.functions.end(),
                                    [&](const Span& function) { return function.holds(chain.span); });
    if (called_later) return;
    std::string name = chain.text.substr(dot + 1);
    name = name.substr(0, name.find('.'));
    RelPath folder = known->second.module.parent();
    bool package = known->second.module.name() == "__init__.py";
    if (package && resolver_.at(folder / name)) return;  // a module of it
    ask(module, *known->second.statement, known->second.module, name);
  }

  void run(const RelPath& module, const Import& statement, std::size_t depth,
           std::map<std::string, Bound>& bound) {
    Imported found =
        resolve_import(resolver_, module, statement, [&](const RelPath& path) { return facts(path); });
    if (found.module) load(found.module->files.front(), depth + 1);
    for (std::size_t i = 0; i < statement.names.size() && !failure_; ++i) {
      if (found.names[i]) {
        load(found.names[i]->files.front(), depth + 1);
        const ImportName& name = statement.names[i];
        bool whole = statement.from || name.bound == name.name || name.whole != name.span;
        if (whole) bound[name.bound] = {found.names[i]->files.front(), &statement};
      } else if (statement.from && found.module) {
        ask(module, statement, found.module->files.front(), statement.names[i].name);
      }
    }
  }

  void ask(const RelPath& module, const Import& statement, const RelPath& asked, const std::string& name) {
    auto state = states_.find(asked);
    if (words::python::first_names().contains(name)) return;
    if (asked == module || state == states_.end() || state->second != State::running) return;
    auto own = facts(asked);
    if (!own) return;
    std::uint32_t now = position_[asked];
    if (name == "*") {  // it would bring what is there so far, and nobody would say so
      bool more = std::any_of(own->bound_at.begin(), own->bound_at.end(),
                              [&](const LocalName& bound) { return bound.scope.begin > now; });
      if (more) failure_ = ImportFailure{module, statement, asked, name};
      return;
    }
    for (const LocalName& bound : own->bound_at) {
      if (bound.name == name && bound.scope.begin < now) return;
    }
    bool starred = false;
    for (const Import& other : own->imports) {
      if (other.statement.begin >= now) continue;
      for (const ImportName& each : other.names) {
        if (each.bound == name) return;
        starred = starred || each.name == "*";
      }
    }
    if (!starred) failure_ = ImportFailure{module, statement, asked, name};
  }

  const TreeReader& tree_;
  PythonResolver resolver_;
  std::unordered_map<RelPath, std::shared_ptr<const PythonFacts>> facts_;
  std::unordered_map<RelPath, State> states_;
  std::unordered_map<RelPath, std::uint32_t> position_;  // the statement that is being run
  std::optional<ImportFailure> failure_;
};

}  // namespace

std::vector<Blocker> new_import_failures(const TreeView& before, const TreeView& planned,
                                         const MoveSet& moves) {
  std::vector<RelPath> entries;  // by their old paths
  std::set<RelPath> known;
  auto add = [&](const RelPath& path) {
    if (path.extension() == ".py" && entries.size() < kMostEntries && known.insert(path).second)
      entries.push_back(path);
  };
  for (const Move& move : moves.files()) add(move.from);
  if (entries.empty()) return {};
  std::set<RelPath> moved = known;
  for (const Reference& reference : before.graph.references) {
    bool to_moved = reference.role == Role::module &&
                    std::any_of(reference.targets.begin(), reference.targets.end(),
                                [&](const Target& target) { return moved.contains(target.path); });
    if (to_moved && !reference.construct.empty() && reference.construct.front().file != kNoFile)
      add(before.graph.files.path(reference.construct.front().file));
  }
  Interpreter old(before), now(planned);
  std::vector<Blocker> out;
  std::set<std::tuple<RelPath, std::uint32_t>> told;
  for (const RelPath& entry : entries) {
    RelPath image = moves.map_file(entry);
    auto failure = now.import(image);
    if (!failure || old.import(entry)) continue;
    if (!told.emplace(failure->file, failure->statement.statement.begin).second) continue;
    out.push_back(
        {"import-order", failure->file, failure->statement.statement, failure->name,
         fmt::format("is asked of {} before that has it, where {} is imported first", failure->module.str(),
                     image.str()),
         "import it in the function that needs it, leave the file in its package, or say --accept-unseen"});
  }
  return out;
}

}  // namespace yc::python
