#include "formats/csharp_names/type_index.h"

namespace yc::csharp {

std::set<std::string> spaces_seen(const Namespaces& names) {
  std::set<std::string> seen = {""};
  seen.insert(names.used.begin(), names.used.end());
  // "Saltmarsh.Tide" names a type by its namespace.
  for (const std::string& name : names.used) {
    if (std::size_t cut = name.rfind('.'); cut != std::string::npos) seen.insert(name.substr(0, cut));
  }
  for (std::string name : names.declared) {
    for (std::size_t cut = name.size(); cut != std::string::npos; cut = name.rfind('.')) {
      name.resize(cut);
      seen.insert(name);
    }
  }
  return seen;
}

TypeIndex::TypeIndex(const TreeReader& tree) {
  for (const RelPath& path : tree.files()) {
    if (path.extension() != ".cs") continue;
    const Entry* entry = tree.find(path);
    auto bytes = !entry || entry->ignored ? Result<Bytes>(Error{}) : tree.read(path);
    if (!bytes) continue;
    SourceTypes& source = sources_[path];
    source = {types_of(**bytes), namespaces_of(**bytes)};
    for (const TypeName& type : source.types)
      givers_[type.space][type.name.substr(0, type.name.find('`'))].insert(path);
  }
}

std::vector<TypeUse> TypeIndex::uses_of(const RelPath& source) const {
  std::vector<TypeUse> out;
  auto known = sources_.find(source);
  if (known == sources_.end()) return out;
  for (const std::string& space : spaces_seen(known->second.names)) {
    auto types = givers_.find(space);
    if (types == givers_.end()) continue;
    for (const auto& [type, givers] : types->second) {
      if (!known->second.names.words.contains(type) || givers.contains(source)) continue;
      out.push_back({space.empty() ? type : space + "." + type, givers});
    }
  }
  return out;
}

}  // namespace yc::csharp
