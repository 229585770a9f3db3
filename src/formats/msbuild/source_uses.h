// Which C# sources of which projects use each other, as their names show.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>

#include "formats/capabilities/consequences.h"
#include "formats/csharp_names/type_index.h"

namespace yc::msbuild {

struct SourceUse {
  RelPath user, giver;
  std::string name;  // of a type or of a method that extends one
};

class SourceUses {
 public:
  // `format` is this format's own index. Reads all C# sources of the tree.
  SourceUses(const TreeView& view, std::uint8_t format);
  // The sources of each project.
  const std::map<RelPath, std::set<RelPath>>& projects() const { return projects_; }
  // The projects that each one refers to, by itself or through others.
  std::set<RelPath> reached(const RelPath& project) const;
  // One use of what `givers` declare, if there is one. With `any_space` it does not matter which namespaces a
  // source sees by its own words.
  std::optional<SourceUse> first(const std::set<RelPath>& users, const std::set<RelPath>& givers,
                                 bool any_space) const;
  // The same of a name that only the assembly of the givers may use.
  std::optional<SourceUse> first_hidden(const TreeReader& tree, const std::set<RelPath>& users,
                                        const std::set<RelPath>& givers) const;

 private:
  csharp::TypeIndex index_;
  std::map<RelPath, std::set<RelPath>> projects_, uses_;
};

}  // namespace yc::msbuild
