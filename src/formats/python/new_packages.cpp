#include "formats/python/new_packages.h"

#include <algorithm>
#include <set>

#include "formats/python/python_scan.h"

namespace yc::python {

namespace {

bool is_module(const RelPath& path) {
  std::string_view name = path.name();
  return path.extension() == ".py" && is_name(name.substr(0, name.size() - 3));
}

class Planned {
 public:
  Planned(const TreeReader& tree, const MoveSet& moves, const std::map<RelPath, std::string>& made)
      : tree_(tree), moves_(moves), made_(made) {}

  bool is_file(const RelPath& path) const {
    if (made_.contains(path)) return true;
    RelPath old = moves_.unmap_file(path);
    return old != path ? tree_.is_file(old) : tree_.is_file(path) && moves_.map_file(path) == path;
  }
  bool is_package(const RelPath& folder) const {
    return !folder.is_root() && is_file(folder / "__init__.py");
  }

 private:
  const TreeReader& tree_;
  const MoveSet& moves_;
  const std::map<RelPath, std::string>& made_;
};

// Whether modules lay in a folder before, so that it was none on purpose.
bool held_modules(const TreeReader& tree, const RelPath& folder) {
  std::vector<std::string> names = tree.children(folder);
  return std::any_of(names.begin(), names.end(),
                     [](const std::string& name) { return name.ends_with(".py"); });
}

bool lies_beside_packages(const TreeReader& tree, const RelPath& folder) {
  RelPath parent = folder.parent();
  std::vector<std::string> names = tree.children(parent);
  return std::any_of(names.begin(), names.end(), [&](const std::string& name) {
    RelPath sibling = parent / name;
    // Tests are often a package only for their runner.
    return sibling != folder && name != "tests" && name != "test" && tree.is_file(sibling / "__init__.py");
  });
}

bool names_module(const Import& statement, const std::string& name) {
  auto ends_so = [&](const std::string& dotted) { return dotted == name || dotted.ends_with("." + name); };
  return ends_so(statement.module) || std::any_of(statement.names.begin(), statement.names.end(),
                                                  [&](const ImportName& each) { return ends_so(each.name); });
}

// A program: it says so, or nothing imports it.
bool is_started(const TreeReader& tree, const RelPath& path) {
  auto bytes = tree.read(path);
  if (bytes && scan_python(**bytes).is_script) return true;
  std::string name(path.name().substr(0, path.name().size() - 3));
  for (const RelPath& other : tree.files()) {
    const Entry* entry = other.extension() == ".py" ? tree.find(other) : nullptr;
    if (!entry || entry->kind != EntryKind::file || entry->ignored) continue;
    auto text = tree.read(other);
    if (!text || (*text)->find(name) == std::string::npos) continue;
    PythonFacts facts = scan_python(**text);
    if (std::any_of(facts.imports.begin(), facts.imports.end(),
                    [&](const Import& statement) { return names_module(statement, name); }))
      return false;
  }
  return true;
}

}  // namespace

std::map<RelPath, std::string> needed_packages(const TreeReader& tree, const MoveSet& moves) {
  std::map<RelPath, std::string> out;
  Planned planned(tree, moves, out);
  // A package whose "__init__" goes stays one for the modules that stay.
  for (const Move& move : moves.files()) {
    RelPath folder = move.from.parent();
    if (move.from.name() != "__init__.py" || folder.is_root() || planned.is_file(move.from)) continue;
    std::vector<std::string> names = tree.children(folder);
    bool any_stays = std::any_of(names.begin(), names.end(), [&](const std::string& name) {
      RelPath path = folder / name;
      return is_module(path) && tree.is_file(path) && moves.map_file(path) == path;
    });
    if (any_stays) out[move.from] = "";
  }
  std::set<RelPath> plain;
  for (const Move& move : moves.files()) {
    if (!is_module(move.from) || !is_module(move.to)) continue;
    bool from_package = tree.is_file(move.from.parent() / "__init__.py");
    // From the folder upwards, as far as folders are new.
    std::vector<RelPath> fresh;
    RelPath place = move.to.parent();
    // Packages that come along.
    while (planned.is_package(place) && !tree.is_folder(place)) place = place.parent();
    bool comes_along = place != move.to.parent();
    for (RelPath up = place; !up.is_root() && !planned.is_package(up); up = up.parent()) {
      if (!is_name(up.name()) || held_modules(tree, up)) break;
      fresh.push_back(up);
    }
    // A folder that went along as a whole is what it was.
    auto image = moves.map_folder(move.from.parent());
    if (!comes_along && image && *image == move.to.parent()) continue;
    if (fresh.empty()) continue;
    bool in_package = planned.is_package(fresh.back().parent());
    if (comes_along && !in_package) continue;
    bool wanted = in_package || from_package || lies_beside_packages(tree, fresh.back());
    if (!wanted) continue;
    // Programs are started from their folder, which stays a plain one.
    if (!in_package && !from_package) {
      if (plain.contains(move.to.parent())) continue;
      bool program = std::any_of(moves.files().begin(), moves.files().end(), [&](const Move& other) {
        return other.to.parent() == move.to.parent() && is_module(other.from) && is_started(tree, other.from);
      });
      if (program) {
        plain.insert(move.to.parent());
        continue;
      }
    }
    for (const RelPath& folder : fresh) {
      // A folder that was there and holds no modules may be a root of its own.
      if (tree.is_folder(folder) && !in_package) continue;
      out[folder / "__init__.py"] = "";
    }
  }
  return out;
}

}  // namespace yc::python
