#include "inspect/source_units.h"

#include <algorithm>
#include <optional>

namespace yc {

namespace {

class UnitFinder {
 public:
  UnitFinder(const TreeReader& tree, const ReferenceGraph& graph) : tree_(tree), graph_(graph) {}

  std::vector<SourceUnit> run() {
    for (const RelPath& path : tree_.files()) {
      const Entry* entry = tree_.find(path);
      if (!entry || entry->ignored || entry->kind != EntryKind::file) continue;
      std::string_view ending = path.extension();
      if (ending == ".py") python(path);
      if (ending == ".go") go(path);
    }
    no_boundary();
    for (const Reference& reference : graph_.references) {
      if (reference.role == Role::module) use(reference);
    }
    return std::move(out_);
  }

 private:
  std::size_t unit(const std::string& name, const std::string& kind, const RelPath& file) {
    auto [at, fresh] = known_.emplace(std::pair(kind, file), out_.size());
    if (fresh) out_.push_back({name, kind, file, {}, {}});
    return at->second;
  }

  void join(std::size_t unit, const RelPath& path) {
    out_[unit].members.insert(path);
    owner_[path] = unit;
  }

  // The outermost package around a module; a program that is in none.
  void python(const RelPath& path) {
    std::optional<RelPath> package;
    for (RelPath up = path.parent(); !up.is_root() && tree_.is_file(up / "__init__.py"); up = up.parent())
      package = up;
    if (package) {
      join(unit(std::string(package->name()), "Python package", *package / "__init__.py"), path);
    } else if (graph_.started.contains(path)) {
      join(unit(path.str(), "Python program", path), path);
    }
  }

  void go(const RelPath& path) {
    RelPath folder = path.parent();
    join(unit(folder.is_root() ? "." : folder.str(), "Go package", folder), path);
  }

  // C# sources without a definition above them are one assembly where others have definitions, and see all.
  void no_boundary() {
    std::set<RelPath> folders;
    for (const Boundary& one : graph_.boundaries) {
      if (one.kind == "assembly") folders.insert(one.file.parent());
    }
    if (folders.empty()) return;
    for (const RelPath& path : tree_.files()) {
      const Entry* entry = tree_.find(path);
      if (path.extension() != ".cs" || !entry || entry->ignored) continue;
      bool is_owned = false;
      for (RelPath up = path.parent(); !is_owned; up = up.parent()) {
        is_owned = folders.contains(up);
        if (up.is_root()) break;
      }
      if (!is_owned) join(unit("(no assembly of its own)", "assembly", RelPath()), path);
    }
  }

  void use(const Reference& reference) {
    Standing at = standing_of(reference);
    auto own = at.file == kNoFile ? owner_.end() : owner_.find(graph_.files.path(at.file));
    if (own == owner_.end()) return;
    for (const Target& target : reference.targets) {
      auto used = owner_.find(target.path);
      if (used == owner_.end()) continue;
      if (used->second != own->second) out_[own->second].uses.insert(used->second);
    }
  }

  const TreeReader& tree_;
  const ReferenceGraph& graph_;
  std::vector<SourceUnit> out_;
  std::map<std::pair<std::string, RelPath>, std::size_t> known_;  // by kind and file
  std::map<RelPath, std::size_t> owner_;
};

}  // namespace

std::vector<SourceUnit> source_units(const TreeReader& tree, const ReferenceGraph& graph) {
  return UnitFinder(tree, graph).run();
}

}  // namespace yc
