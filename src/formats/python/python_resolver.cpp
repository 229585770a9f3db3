#include "formats/python/python_resolver.h"

#include <algorithm>

namespace yc::python {

namespace {

constexpr std::size_t kDeepestImport = 6;  // folders below a namespace that are looked through for modules

bool is_plain_file(const TreeReader& tree, const RelPath& path) {
  const Entry* entry = tree.find(path);
  return entry && entry->kind != EntryKind::folder && !entry->ignored;
}

RelPath with_dots_as_folders(const RelPath& root, const std::string& name) {
  std::string path = name;
  std::replace(path.begin(), path.end(), '.', '/');
  return root / path;
}

// Files that a test runner starts by their names; it finds what is beside them.
bool is_test(const RelPath& path) {
  std::string_view name = path.name();
  return name.starts_with("test_") || name.ends_with("_test.py") || name == "conftest.py";
}

bool is_project_file(std::string_view name) {
  return name == "pyproject.toml" || name == "setup.py" || name == "setup.cfg";
}

}  // namespace

PythonResolver::PythonResolver(const TreeReader& tree, const Scopes& scopes) : tree_(tree), scopes_(scopes) {
  for (const RelPath& script : scopes.started) {
    if (script.extension() != ".py") continue;
    if (!is_package(script.parent())) starts_.insert(script.parent());
  }
}

bool PythonResolver::is_package(const RelPath& folder) const {
  return !folder.is_root() &&
         (is_plain_file(tree_, folder / "__init__.py") || is_plain_file(tree_, folder / "__init__.pyi"));
}

RelPath PythonResolver::above_packages(const RelPath& file) const {
  RelPath up = file.parent();
  while (is_package(up)) up = up.parent();
  return up;
}

bool PythonResolver::holds_modules(const RelPath& folder, std::size_t depth) const {
  if (depth > kDeepestImport) return false;
  for (const std::string& name : tree_.children(folder)) {
    RelPath path = folder / name;
    if (name.ends_with(".py") || name.ends_with(".pyi")) return true;
    if (is_name(name) && tree_.is_folder(path) && holds_modules(path, depth + 1)) return true;
  }
  return false;
}

std::optional<Found> PythonResolver::at(const RelPath& place) const {
  Found out;
  if (place.is_root()) return std::nullopt;
  for (const char* tail : {"/__init__.py", "/__init__.pyi", ".py", ".pyi"}) {
    bool package = tail[0] == '/';
    if (!package && out.is_package) break;
    RelPath file = RelPath::from_normal(place.str() + tail);
    if (!is_plain_file(tree_, file)) continue;
    out.files.push_back(file);
    out.is_package = package;
  }
  if (!out.files.empty()) return out;
  const Entry* entry = tree_.find(place);
  if (!entry || entry->kind != EntryKind::folder || entry->ignored || !holds_modules(place))
    return std::nullopt;
  out.files.push_back(place);
  out.is_package = true;
  return out;
}

// Where programs are started is known by the settings of a project, or by programs in the root itself.
bool PythonResolver::is_project(const RelPath& folder) const {
  std::vector<std::string> names = tree_.children(folder);
  return std::any_of(names.begin(), names.end(), [&](const std::string& name) {
    return is_project_file(name) || (folder.is_root() && name.ends_with(".py"));
  });
}

std::vector<PythonResolver::Root> PythonResolver::roots(const RelPath& user) const {
  bool is_script = scopes_.started.contains(user) && !is_package(user.parent()) && !is_test(user);
  auto [slot, fresh] = roots_.try_emplace({user.parent(), is_script});
  std::vector<Root>& out = slot->second;
  if (!fresh) return out;
  auto add = [&](const RelPath& folder, bool outer, bool first = false) {
    bool known = std::any_of(out.begin(), out.end(), [&](const Root& root) { return root.folder == folder; });
    if (!known) out.push_back({folder, outer, first});
  };
  // The folder that a start of the file itself, or of a module of its package, would search. Whether that is
  // ever done is sure only if something says so.
  RelPath own = above_packages(user);
  bool sure = own.is_root() || starts_.contains(own) || is_project(own) ||
              std::any_of(scopes_.module_roots.begin(), scopes_.module_roots.end(),
                          [&](const ModuleRoot& root) { return root.folder == own; });
  add(own, !sure, true);
  std::vector<const ModuleRoot*> declared;
  for (const ModuleRoot& root : scopes_.module_roots) declared.push_back(&root);
  std::stable_sort(declared.begin(), declared.end(), [&](const ModuleRoot* a, const ModuleRoot* b) {
    bool in_a = user.is_within(a->scope), in_b = user.is_within(b->scope);
    if (in_a != in_b) return in_a;
    return a->scope.str().size() > b->scope.str().size() && in_a;
  });
  for (const ModuleRoot* root : declared) add(root->folder, false);
  // Folders above, from which somebody may start a program that uses this file.
  for (RelPath up = user.parent();; up = up.parent()) {
    if (starts_.contains(up)) add(up, is_script, true);
    if (up.is_root()) break;
  }
  for (RelPath up = user.parent();; up = up.parent()) {
    if (is_project(up)) add(up, is_script);
    if (up.is_root()) break;
  }
  for (RelPath up = own;; up = up.parent()) {
    add(up, true);
    if (up.is_root()) break;
  }
  for (RelPath up = user.parent(); up != own; up = up.parent()) add(up, true);
  for (const RelPath& start : starts_) add(start, true);
  return out;
}

std::optional<Found> PythonResolver::absolute(const RelPath& user, const std::string& name) const {
  if (name.empty()) return std::nullopt;
  std::string head = name.substr(0, name.find('.'));
  bool standard = is_standard_module(head);
  std::optional<Found> space;
  for (const Root& root : roots(user)) {
    if (standard && (!root.first || root.outer)) continue;
    RelPath place = with_dots_as_folders(root.folder, name);
    auto found = at(place);
    // A program that is called like what it imports does not mean itself; a module of a package may.
    auto is_itself = [&](const Found& one) {
      return one.files.front() == user && !user.name().starts_with("__init__.") && name == head;
    };
    if (!found || is_itself(*found)) {
      // A package hides what other folders have of its name.
      if (auto first = at(root.folder / head);
          first && !is_itself(*first) && !tree_.is_folder(first->files.front()) && !root.outer)
        return space;
      continue;
    }
    found->root = root.folder;
    found->outer = root.outer;
    if (!tree_.is_folder(found->files.front())) return found;
    if (!space && !standard) space = std::move(found);
  }
  return space;
}

bool may_name(const Focus* focus, const std::string& dotted) {
  for (std::size_t at = 0; focus && at <= dotted.size();) {
    std::size_t end = std::min(dotted.find('.', at), dotted.size());
    if (focus->stems.contains(dotted.substr(at, end - at))) return true;
    at = end + 1;
  }
  return !focus;
}

std::optional<Found> PythonResolver::data_package(const RelPath& user, const std::string& name) const {
  std::size_t dot = name.rfind('.');
  auto found = dot == std::string::npos ? std::nullopt : absolute(user, name.substr(0, dot));
  if (!found || !found->is_package) return std::nullopt;
  const RelPath& init = found->files.front();
  RelPath folder = (tree_.is_folder(init) ? init : init.parent()) / name.substr(dot + 1);
  if (!tree_.is_folder(folder)) return std::nullopt;
  found->files = {std::move(folder)};
  return found;
}

std::optional<Found> PythonResolver::relative(const RelPath& user, std::size_t level,
                                              const std::string& name) const {
  RelPath folder = user.parent();
  for (std::size_t i = 1; i < level; ++i) {
    if (folder.is_root()) return std::nullopt;
    folder = folder.parent();
  }
  // No package is above the folders that names are looked up in, and none is one of them.
  std::vector<Root> all = roots(user);
  bool beyond = folder.is_root() || std::any_of(all.begin(), all.end(), [&](const Root& root) {
                  return root.folder == folder && !root.outer;
                });
  if (beyond && !is_package(folder)) return std::nullopt;
  RelPath place = name.empty() ? folder : with_dots_as_folders(folder, name);
  auto out = at(place);
  if (out) out->root = folder;
  return out;
}

bool is_started_by_name(const RelPath& path) {
  return path.name() == "__main__.py" || is_test(path);
}

std::optional<std::string> dotted_name(const RelPath& file, const RelPath& root) {
  if (!file.is_within(root) || file == root) return std::nullopt;
  std::string path(file.below(root));
  for (std::string_view ending : {".pyi", ".py"}) {
    if (!path.ends_with(ending)) continue;
    path.erase(path.size() - ending.size());
    if (path == "__init__") return std::nullopt;
    if (path.ends_with("/__init__")) path.erase(path.size() - 9);
    break;
  }
  std::replace(path.begin(), path.end(), '/', '.');
  return is_dotted_name(path) ? std::optional(path) : std::nullopt;
}

}  // namespace yc::python
