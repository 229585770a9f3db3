#include "formats/capabilities/spellings.h"

#include "formats/format.h"

namespace yc {

std::vector<Way> own_ways(const Need& need) {
  const auto* offered = offer<Spellings>(need.reference.format);
  return offered ? offered->own_ways(need) : std::vector<Way>();
}

std::vector<Way> first_ways(const Need& need) {
  const auto* offered = offer<Spellings>(need.reference.format);
  return offered ? offered->first_ways(need) : std::vector<Way>();
}

std::vector<Way> further_ways(const Need& need) {
  const auto* offered = offer<Spellings>(need.reference.format);
  return offered ? offered->further_ways(need) : std::vector<Way>();
}

std::optional<Spellings::Reason> why_not(const ReferenceGraph& graph, const Reference& reference,
                                         const RelPath& new_base, const RelPath& target) {
  const auto* offered = offer<Spellings>(reference.format);
  return offered ? offered->why_not(graph, reference, new_base, target) : std::nullopt;
}

std::vector<Way> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                 const TreeReader& tree) {
  const auto* offered = offer<SearchRoots>(unit.format);
  return offered ? offered->add_search_root(graph, unit, root, tree) : std::vector<Way>();
}

}  // namespace yc
