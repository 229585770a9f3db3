// Includes as build units see them: one text may lead to different files in different units.
#pragma once

#include <map>
#include <set>
#include <string>
#include <vector>

#include "inspect/inspect.h"

namespace yc {

class UnitNames {
 public:
  explicit UnitNames(const ReferenceGraph& graph);
  // The units that compile something in a context.
  const std::set<std::string>& of(ContextIndex context) const;
  // Units that compile a file, or a source that includes it.
  std::set<std::string> reaching(const ReferenceGraph& graph, const RelPath& path) const;

 private:
  std::map<ContextIndex, std::set<std::string>> by_context_;
};

// Fills by_unit if the reference does not lead to one file in all units.
void tell_units(const UnitNames& names, const Reference& reference, Seen& seen);

}  // namespace yc
