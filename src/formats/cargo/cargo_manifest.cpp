#include "formats/cargo/cargo_manifest.h"

#include <algorithm>

namespace yc::cargo {

namespace {

using Keys = std::vector<std::string>;

bool is_dependency_table(const std::string& key) {
  return key == "dependencies" || key == "dev-dependencies" || key == "build-dependencies" ||
         key == "dev_dependencies" || key == "build_dependencies";
}

// Tables of targets; all but the library's are arrays.
bool is_target_table(const std::string& key) {
  return key == "lib" || key == "bin" || key == "test" || key == "example" || key == "bench";
}

std::optional<Names> names_at(const Keys& keys) {
  const std::string& last = keys.back();
  std::size_t size = keys.size();
  if (size == 3 && keys[0] == "workspace" &&
      (keys[1] == "members" || keys[1] == "exclude" || keys[1] == "default-members"))
    return Names::member;
  if (last == "path" && size >= 3 && is_dependency_table(keys[size - 3])) return Names::crate;
  if (last == "path" && ((size == 4 && keys[0] == "patch") || (size == 3 && keys[0] == "replace")))
    return Names::crate;
  if (size == 2 && keys[0] == "package" && last == "workspace") return Names::crate;
  if (last == "path" && size >= 2 && is_target_table(keys[0])) return Names::file;
  bool of_package = (size == 2 && (keys[0] == "package" || keys[0] == "project")) ||
                    (size == 3 && keys[0] == "workspace" && keys[1] == "package");
  if (of_package && (last == "build" || last == "readme" || last == "license-file")) return Names::file;
  if (size == 3 && keys[0] == "package" && (keys[1] == "include" || keys[1] == "exclude"))
    return Names::packed;
  if (size >= 3 && (keys[0] == "package" || keys[0] == "workspace") && keys[1] == "metadata")
    return Names::maybe;
  return std::nullopt;
}

}  // namespace

Manifest read_manifest(std::string_view bytes) {
  Manifest out;
  // A workspace may be an empty table, which has no values.
  out.is_workspace = bytes.find("[workspace]") != std::string_view::npos;
  for (const values::Switch& one : values::read_toml_switches(bytes)) {
    if (one.path == Keys{"package", "publish"} && !one.is_on) out.is_private = true;
  }
  for (values::Value& value : values::read_toml(bytes)) {
    if (value.path.empty()) continue;
    out.is_workspace = out.is_workspace || value.path.front() == "workspace";
    if (value.path == Keys{"package", "name"} || value.path == Keys{"project", "name"})
      out.package = value.text;
    if (auto what = names_at(value.path)) out.paths.push_back({*what, std::move(value)});
  }
  return out;
}

bool stops_looking(const std::vector<values::Value>& manifest, std::string_view table) {
  bool is_named = false;
  for (const values::Value& value : manifest) {
    bool is_edition = value.path == Keys{"package", "edition"} || value.path == Keys{"project", "edition"};
    if (is_edition && value.text != "2015") return false;
    is_named = is_named || (!value.path.empty() && value.path.front() == table && table != "lib");
  }
  return is_named;
}

bool is_manifest(const RelPath& path) {
  return path.name() == "Cargo.toml";
}

}  // namespace yc::cargo
