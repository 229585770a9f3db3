#include "formats/assemblies/unit_needs.h"

#include <algorithm>

#include "formats/csharp_names/type_index.h"

namespace yc::assemblies {

UnitNeeds::UnitNeeds(const TreeReader& tree, const AssemblyMap& map) : map_(map) {
  csharp::TypeIndex index(tree);
  for (const auto& [path, source] : index.sources()) {
    const Assembly* own = map.owner(path);
    if (!own) continue;
    for (const csharp::TypeUse& use : index.uses_of(path)) {
      std::set<const Assembly*> givers;
      for (const RelPath& giver : use.givers) givers.insert(map.owner(giver));
      // Where several have one of that name it is not known which is meant.
      if (givers.size() != 1 || *givers.begin() == own || needs(own, *givers.begin())) continue;
      all_.push_back({own, *givers.begin(), path, use.type});
    }
  }
}

bool UnitNeeds::needs(const Assembly* from, const Assembly* to) const {
  return std::any_of(all_.begin(), all_.end(),
                     [&](const UnitNeed& need) { return need.from == from && need.to == to; });
}

std::vector<UnitNeed> UnitNeeds::unmet() const {
  std::vector<UnitNeed> out;
  for (const UnitNeed& need : all_) {
    if (!need.to || !map_.refers(*need.from, *need.to)) out.push_back(need);
  }
  return out;
}

}  // namespace yc::assemblies
