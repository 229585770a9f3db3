// Which assemblies need a reference to which others, as their sources show.
#pragma once

#include <string>
#include <vector>

#include "formats/assemblies/assembly_map.h"

namespace yc::assemblies {

// A source of `from` uses a type that only `to` has. Null is the assembly of all sources without a definition
// above them, which sees all others and is seen by none.
struct UnitNeed {
  const Assembly* from = nullptr;
  const Assembly* to = nullptr;
  RelPath user;      // the first source that shows it
  std::string type;  // with its namespace
};

class UnitNeeds {
 public:
  // Reads all C# sources of the tree. `map` must outlive this.
  UnitNeeds(const TreeReader& tree, const AssemblyMap& map);
  // One for each pair of assemblies, by the paths of the users; also those that a reference meets.
  const std::vector<UnitNeed>& all() const { return all_; }
  // Those that no reference meets.
  std::vector<UnitNeed> unmet() const;
  bool needs(const Assembly* from, const Assembly* to) const;

 private:
  const AssemblyMap& map_;
  std::vector<UnitNeed> all_;
};

}  // namespace yc::assemblies
