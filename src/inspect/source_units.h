// Units that neither a build script nor a manifest names: packages and programs of Python, packages of Go,
// and what belongs to no boundary where others have one.
#pragma once

#include <map>
#include <set>
#include <string>
#include <vector>

#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

struct SourceUnit {
  std::string name, kind;
  RelPath file;  // that makes it one: its manifest, or its first source
  std::set<RelPath> members;
  std::set<std::size_t> uses;  // other ones, by their numbers
};

std::vector<SourceUnit> source_units(const TreeReader& tree, const ReferenceGraph& graph);

}  // namespace yc
