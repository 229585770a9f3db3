// Which C# sources of a tree declare which types, and use those of which others.
#pragma once

#include <map>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "formats/csharp_names/csharp_names.h"
#include "tree/tree_reader.h"

namespace yc::csharp {

struct SourceTypes {
  std::vector<TypeName> types;
  Namespaces names;
};

// A type that a source names, and who declares one of that name in a namespace that the source sees.
struct TypeUse {
  std::string type;  // with its namespace
  std::set<RelPath> givers;
};

// The namespaces whose types a source sees without a word, or names in full.
std::set<std::string> spaces_seen(const Namespaces& names);

class TypeIndex {
 public:
  // Reads all C# sources of the tree that are not ignored.
  explicit TypeIndex(const TreeReader& tree);
  const std::map<RelPath, SourceTypes>& sources() const { return sources_; }
  // Of types that the source does not declare itself.
  std::vector<TypeUse> uses_of(const RelPath& source) const;

 private:
  std::map<RelPath, SourceTypes> sources_;
  std::map<std::string, std::map<std::string, std::set<RelPath>>> givers_;  // by namespace and name
};

}  // namespace yc::csharp
