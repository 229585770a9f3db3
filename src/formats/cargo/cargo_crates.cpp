#include "formats/cargo/cargo_crates.h"

#include <algorithm>
#include <map>
#include <set>

#include "formats/cargo/cargo_config.h"
#include "formats/cargo/cargo_manifest.h"

namespace yc::cargo {

namespace {

using Keys = std::vector<std::string>;

// A name as sources write it.
std::string as_crate_name(std::string name) {
  std::replace(name.begin(), name.end(), '-', '_');
  return name;
}

bool names_dependencies(const std::string& key) {
  return key.ends_with("dependencies");
}

struct Dependency {
  std::string path;     // of its folder, if the manifest says so
  std::string package;  // if it is called otherwise than its package
  bool is_inherited = false;
};

struct Package {
  RelPath folder;
  std::string name, library_name;
  std::optional<RelPath> library;
  std::set<RelPath> programs;  // all other targets
  bool has_edition = false, is_workspace = false;
  std::map<std::string, Dependency> dependencies, shared;
  std::map<std::string, std::string> patches;  // folders that stand in for packages of a registry
};

class Packages {
 public:
  explicit Packages(const Reading& in) : in_(in) {
    for (const RelPath& path : in.files) {
      auto bytes = is_manifest(path) ? in.tree.read(path) : Result<Bytes>(Error{});
      if (bytes) packages_.emplace(path, package(path, **bytes));
    }
    for (const RelPath& path : in.files) {
      auto bytes = is_config(path) ? in.tree.read(path) : Result<Bytes>(Error{});
      if (bytes) overrides(path.ancestor(2), **bytes);
    }
  }

  std::vector<Crate> run() const {
    std::vector<Crate> out;
    for (const auto& [manifest, package] : packages_) {
      if (package.name.empty()) continue;
      std::map<std::string, RelPath> uses = used_by(package);
      if (package.library)
        out.push_back({*package.library, manifest, package.library_name, true, !package.has_edition, uses});
      if (package.library) uses[package.library_name] = *package.library;
      for (const RelPath& program : package.programs)
        out.push_back({program, manifest, package.library_name, false, !package.has_edition, uses});
    }
    return out;
  }

 private:
  static void note(const values::Value& value, Package& out) {
    const Keys& keys = value.path;
    const std::string& last = keys.back();
    std::size_t size = keys.size();
    bool of_package = keys[0] == "package" || keys[0] == "project";
    if (of_package && size == 2 && last == "name") out.name = value.text;
    if (of_package && size >= 2 && keys[1] == "edition") out.has_edition = value.text != "2015";
    if (keys[0] == "workspace") out.is_workspace = true;
    if (keys[0] == "lib" && last == "name") out.library_name = value.text;
    if (keys[0] == "patch" && size == 4 && last == "path") out.patches[keys[2]] = value.text;
    if (keys[0] == "replace" && size == 3 && last == "path")
      out.patches[keys[1].substr(0, keys[1].find(':'))] = value.text;
    for (std::size_t i = 0; i + 1 < size; ++i) {
      if (!names_dependencies(keys[i])) continue;
      auto& table = keys[0] == "workspace" ? out.shared : out.dependencies;
      Dependency& one = table[keys[i + 1]];
      if (size != i + 3) break;
      if (last == "path") one.path = value.text;
      if (last == "package") one.package = value.text;
      break;
    }
  }

  static void note(const values::Switch& one, Package& out, std::set<std::string>& off,
                   std::optional<std::string>& build) {
    const Keys& keys = one.path;
    std::size_t size = keys.size();
    if (keys[0] == "workspace") out.is_workspace = true;
    if (keys[0] == "package" && size == 2 && !one.is_on) {
      if (keys[1].starts_with("auto")) off.insert(keys[1].substr(4));
      if (keys[1] == "build") build = std::nullopt;
    }
    if (keys.back() != "workspace" || !one.is_on) return;
    if (keys[0] == "package" && size == 3 && keys[1] == "edition") out.has_edition = true;
    if (size >= 3 && names_dependencies(keys[size - 3])) out.dependencies[keys[size - 2]].is_inherited = true;
  }

  Package package(const RelPath& manifest, const std::string& bytes) const {
    Package out;
    out.folder = manifest.parent();
    std::set<std::string> off;  // kinds of targets that are not looked for
    std::optional<std::string> build = "build.rs";
    for (const values::Switch& one : values::read_toml_switches(bytes)) note(one, out, off, build);
    std::vector<values::Value> values = values::read_toml(bytes);
    for (const auto& [table, kind] : {std::pair("bin", "bins"), std::pair("test", "tests"),
                                      std::pair("example", "examples"), std::pair("bench", "benches")}) {
      if (!out.has_edition && stops_looking(values, table)) off.insert(kind);
    }
    for (const values::Value& value : values) {
      if (value.path.empty()) continue;
      note(value, out);
      if (value.path == Keys{"package", "build"}) build = value.text;
      const std::string& table = value.path.front();
      bool is_target =
          value.path.size() >= 2 && value.path.back() == "path" &&
          (table == "lib" || table == "bin" || table == "test" || table == "example" || table == "bench");
      auto place = is_target ? RelPath::resolve(out.folder, value.text) : std::nullopt;
      if (!place || !in_.tree.is_file(*place)) continue;
      if (table == "lib") {
        out.library = *place;
      } else {
        out.programs.insert(*place);
      }
    }
    if (out.name.empty()) return out;
    if (out.library_name.empty()) out.library_name = as_crate_name(out.name);
    RelPath library = out.folder / "src/lib.rs", program = out.folder / "src/main.rs";
    if (!out.library && !off.contains("lib") && in_.tree.is_file(library)) out.library = library;
    if (!off.contains("bins") && in_.tree.is_file(program)) out.programs.insert(program);
    for (const auto& [kind, folder] : {std::pair("bins", "src/bin"), std::pair("tests", "tests"),
                                       std::pair("examples", "examples"), std::pair("benches", "benches")}) {
      if (!off.contains(kind)) find_programs(out.folder / folder, out.programs);
    }
    auto script = build ? RelPath::resolve(out.folder, *build) : std::nullopt;
    if (script && in_.tree.is_file(*script)) out.programs.insert(*script);
    return out;
  }

  void find_programs(const RelPath& folder, std::set<RelPath>& out) const {
    if (!in_.tree.is_folder(folder)) return;
    for (const std::string& name : in_.tree.children(folder)) {
      RelPath path = folder / name;
      if (path.extension() == ".rs" && in_.tree.is_file(path)) out.insert(path);
      if (in_.tree.is_folder(path) && in_.tree.is_file(path / "main.rs")) out.insert(path / "main.rs");
    }
  }

  // The package at the top of the workspace that holds one.
  const Package* workspace_of(const Package& package) const {
    for (RelPath up = package.folder;; up = up.parent()) {
      auto at = packages_.find(up / "Cargo.toml");
      if (at != packages_.end() && at->second.is_workspace) return &at->second;
      if (up.is_root()) return nullptr;
    }
  }

  // The folder that stands in for a package of a registry, as the topmost manifest says, or settings above.
  std::optional<RelPath> patched(const Package& top, const std::string& name) const {
    auto patch = top.patches.find(name);
    if (patch != top.patches.end()) return RelPath::resolve(top.folder, patch->second);
    for (const Override& one : overrides_) {
      if (one.name == name && top.folder.is_within(one.scope)) return one.folder;
    }
    return std::nullopt;
  }

  std::map<std::string, RelPath> used_by(const Package& package) const {
    std::map<std::string, RelPath> out;
    const Package* top = workspace_of(package);
    for (const auto& [name, dependency] : package.dependencies) {
      const Dependency* said = &dependency;
      const RelPath* from = &package.folder;
      if (dependency.is_inherited && top) {
        auto shared = top->shared.find(name);
        if (shared == top->shared.end()) continue;
        said = &shared->second;
        from = &top->folder;
      }
      const std::string& package_name = said->package.empty() ? name : said->package;
      auto folder = said->path.empty() ? patched(top ? *top : package, package_name)
                                       : RelPath::resolve(*from, said->path);
      auto used = folder ? packages_.find(*folder / "Cargo.toml") : packages_.end();
      if (used == packages_.end() || !used->second.library) continue;
      out[said->package.empty() ? used->second.library_name : as_crate_name(name)] = *used->second.library;
    }
    return out;
  }

  // "paths" and "patch" of settings.
  void overrides(const RelPath& scope, const std::string& bytes) {
    for (const values::Value& value : values::read_toml(bytes)) {
      bool is_path = value.path.size() == 2 && value.path[0] == "paths";
      bool is_patch = value.path.size() == 4 && value.path[0] == "patch" && value.path[3] == "path";
      auto folder = is_path || is_patch ? RelPath::resolve(scope, value.text) : std::nullopt;
      auto package = folder ? packages_.find(*folder / "Cargo.toml") : packages_.end();
      if (package != packages_.end())
        overrides_.push_back({scope, is_patch ? value.path[2] : package->second.name, *folder});
    }
  }

  struct Override {
    RelPath scope;  // of the packages that it is for
    std::string name;
    RelPath folder;
  };

  const Reading& in_;
  std::map<RelPath, Package> packages_;
  std::vector<Override> overrides_;
};

}  // namespace

std::vector<Crate> crates_of(const Reading& in) {
  return Packages(in).run();
}

}  // namespace yc::cargo
