#include "formats/assemblies/assembly_map.h"

#include <algorithm>

#include "formats/json/json_strings.h"

namespace yc::assemblies {

namespace {

// "guid: 0a1b…" of the file's companion.
std::string assembly_name(const TreeReader& tree, const RelPath& file) {
  auto bytes = tree.read(RelPath::from_normal(file.str() + ".meta"));
  std::size_t at = bytes ? (*bytes)->find("guid:") : std::string::npos;
  if (at == std::string::npos) return "";
  at = (*bytes)->find_first_not_of(" \t", at + 5);
  std::size_t end = (*bytes)->find_first_of(" \t\r\n", at);
  return at == std::string::npos ? "" : (*bytes)->substr(at, end == std::string::npos ? end : end - at);
}

}  // namespace

AssemblyMap::AssemblyMap(const TreeReader& tree, const std::vector<RelPath>& files) {
  std::vector<RelPath> joining;
  for (const RelPath& path : files) {
    std::string_view ending = path.extension();
    if (ending != ".asmref" && ending != ".asmdef") continue;
    const Entry* entry = tree.find(path);
    if (entry->ignored || entry->kind == EntryKind::folder) continue;
    if (ending == ".asmref") joining.push_back(path);
    if (ending != ".asmdef") continue;
    auto bytes = tree.read(path);
    if (!bytes) continue;
    Assembly one;
    one.file = path;
    one.identifier = assembly_name(tree, path);
    for (const json::StringValue& value : json::string_values(**bytes)) {
      if (value.path.size() == 1 && value.path[0] == "name") one.name = value.text;
      if (value.path.size() == 2 && value.path[0] == "references") one.references.push_back(value.text);
      if (value.path.size() == 2 && value.path[0] == "includePlatforms") one.platforms.push_back(value.text);
    }
    one.by_identifier = std::any_of(one.references.begin(), one.references.end(),
                                    [](const std::string& text) { return text.starts_with("GUID:"); });
    if (!one.name.empty()) all_.push_back(std::move(one));
  }
  for (const Assembly& one : all_) by_folder_[one.file.parent()] = &one;
  for (const RelPath& path : joining) {
    auto bytes = tree.read(path);
    if (!bytes) continue;
    for (const json::StringValue& value : json::string_values(**bytes)) {
      if (value.path.size() != 1 || value.path[0] != "reference") continue;
      if (const Assembly* joined = find(value.text))
        by_folder_[path.parent()] = joined_[path.parent()] = joined;
    }
  }
}

const Assembly* AssemblyMap::owner(const RelPath& file) const {
  for (RelPath up = file.parent();; up = up.parent()) {
    if (auto found = by_folder_.find(up); found != by_folder_.end()) return found->second;
    if (up.is_root()) return nullptr;
  }
}

const Assembly* AssemblyMap::find(const std::string& reference) const {
  for (const Assembly& one : all_) {
    if (one.name == reference || (!one.identifier.empty() && "GUID:" + one.identifier == reference))
      return &one;
  }
  return nullptr;
}

bool AssemblyMap::refers(const Assembly& from, const Assembly& to) const {
  return std::any_of(from.references.begin(), from.references.end(),
                     [&](const std::string& text) { return find(text) == &to; });
}

bool AssemblyMap::reaches(const Assembly& from, const Assembly& to) const {
  std::set<const Assembly*> seen;
  std::vector<const Assembly*> open = {&from};
  while (!open.empty()) {
    const Assembly* one = open.back();
    open.pop_back();
    if (one == &to) return true;
    if (!seen.insert(one).second) continue;
    for (const std::string& text : one->references) {
      if (const Assembly* next = find(text)) open.push_back(next);
    }
  }
  return false;
}

}  // namespace yc::assemblies
