// What package manifests say of packages: their names, and what they depend on ("package.json", npm
// documentation).
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/edit.h"
#include "tree/tree_reader.h"

namespace yc::web_settings {

struct Dependency {
  std::string section, version;
};

struct Manifest {
  RelPath path;
  std::string name;
  std::map<std::string, Dependency> dependencies;
  std::vector<std::string> platforms;
  std::vector<std::string> members;  // patterns of folders, where it is that of a workspace
};

std::optional<Manifest> read_manifest(const TreeReader& tree, const RelPath& path);
// Those above a file, the nearest first.
std::vector<Manifest> manifests_above(const TreeReader& tree, const RelPath& file);
// Where the nearest of them lists a package; null if none does.
const Dependency* listed(const std::vector<Manifest>& manifests, const std::string& name);
bool is_section(std::string_view key);

// Takes a dependency out of a section, with the section if nothing else is in it.
std::optional<Edit> drop_dependency(const RelPath& file, std::string_view bytes,
                                    const std::vector<std::string>& section, const std::string& name);

// "d3-scale" of "d3-scale/src/linear.js", "@tide/chart" of "@tide/chart/axis"; empty for other specifiers.
std::string package_of(const std::string& specifier);

}  // namespace yc::web_settings
