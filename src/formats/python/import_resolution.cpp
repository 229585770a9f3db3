// What an import statement imports.
#include <algorithm>

#include "formats/python/python_references.h"

namespace yc::python {

namespace {

// Whether a folder can be the package of a dotted name.
bool ends_with_name(const RelPath& folder, std::string name) {
  std::replace(name.begin(), name.end(), '.', '/');
  const std::string& path = folder.str();
  return path == name || path.ends_with("/" + name);
}

}  // namespace

std::shared_ptr<const PythonFacts> facts_of(const TreeReader& tree, FactsCache& cache, std::uint8_t format,
                                            const RelPath& path) {
  auto bytes = tree.is_folder(path) ? Result<Bytes>(Error{}) : tree.read(path);
  if (!bytes) return nullptr;
  return cache.get<PythonFacts>(format, *bytes, [](const std::string& text) { return scan_python(text); });
}

bool hides(const PythonFacts& package, const RelPath& folder, const std::string& name) {
  if (std::binary_search(package.bound.begin(), package.bound.end(), name)) return true;
  for (const Import& statement : package.imports) {
    for (const ImportName& each : statement.names) {
      // "from . import tide" and "from pole import tide" are how a package gets its own module.
      bool own = statement.from && each.name == name &&
                 ((statement.level == 1 && statement.module.empty()) ||
                  (statement.level == 0 && ends_with_name(folder, statement.module)));
      if (each.bound == name && !own && !statement.late) return true;
    }
  }
  return false;
}

bool is_hidden(const TreeReader& tree, FactsCache& cache, std::uint8_t format, const std::string& dotted,
               const Found& module) {
  std::size_t dot = dotted.rfind('.');
  const RelPath& file = module.files.front();
  if (dot == std::string::npos || file.is_root()) return false;
  RelPath folder = file.name().starts_with("__init__.") ? file.parent().parent() : file.parent();
  RelPath init = folder / "__init__.py";
  auto facts = tree.is_file(init) ? facts_of(tree, cache, format, init) : nullptr;
  return facts && hides(*facts, folder, dotted.substr(dot + 1));
}

Imported resolve_import(const PythonResolver& resolver, const RelPath& user, const Import& statement,
                        const std::function<std::shared_ptr<const PythonFacts>(const RelPath&)>& facts) {
  Imported out;
  out.names.resize(statement.names.size());
  auto resolve = [&](const std::string& name) {
    return statement.level > 0 ? resolver.relative(user, statement.level, name)
                               : resolver.absolute(user, name);
  };
  if (!statement.from) {
    for (std::size_t i = 0; i < statement.names.size(); ++i) out.names[i] = resolve(statement.names[i].name);
    return out;
  }
  out.module = resolve(statement.module);
  if (!out.module || !out.module->is_package) return out;
  const RelPath& init = out.module->files.front();
  bool same_file = init == user;
  auto package = facts(out.module->files.front());
  for (std::size_t i = 0; i < statement.names.size(); ++i) {
    const std::string& name = statement.names[i].name;
    if (name == "*" || (package && !same_file && hides(*package, init.parent(), name))) continue;
    auto found = resolve(statement.module.empty() ? name : statement.module + "." + name);
    if (!found) continue;
    // It is looked for in that package, and nowhere else.
    RelPath folder = init.name().starts_with("__init__.") ? init.parent() : init;
    if (!found->files.front().is_within(folder)) continue;
    out.names[i] = std::move(found);
  }
  return out;
}

}  // namespace yc::python
