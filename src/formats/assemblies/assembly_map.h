// Which assembly each source belongs to, and what the assemblies need of each other.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "tree/tree_reader.h"

namespace yc::assemblies {

struct Assembly {
  RelPath file;
  std::string name, identifier;         // the identifier may be unknown
  std::vector<std::string> references;  // as written
  std::vector<std::string> platforms;
  bool by_identifier = false;  // its references are written so
};

class AssemblyMap {
 public:
  // Of the definitions among `files`, and the files that join them.
  AssemblyMap(const TreeReader& tree, const std::vector<RelPath>& files);
  const std::vector<Assembly>& all() const { return all_; }
  // The one that a file belongs to; null for none.
  const Assembly* owner(const RelPath& file) const;
  const Assembly* find(const std::string& reference) const;                     // by name or "GUID:…"
  const std::map<RelPath, const Assembly*>& joined() const { return joined_; }  // folders, by reference files
  // Whether one refers to another, directly.
  bool refers(const Assembly& from, const Assembly& to) const;
  // The same through any number of others.
  bool reaches(const Assembly& from, const Assembly& to) const;

 private:
  std::vector<Assembly> all_;
  std::map<RelPath, const Assembly*> by_folder_, joined_;
};

}  // namespace yc::assemblies
