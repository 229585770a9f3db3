#include "formats/capabilities/spellings.h"

#include "formats/format.h"

namespace yc {

std::vector<Proposal> own_proposals(const RewriteRequest& need) {
  const auto* offered = offer<Spellings>(need.reference.format);
  return offered ? offered->own_proposals(need) : std::vector<Proposal>();
}

std::vector<Proposal> early_proposals(const RewriteRequest& need) {
  const auto* offered = offer<Spellings>(need.reference.format);
  return offered ? offered->early_proposals(need) : std::vector<Proposal>();
}

std::vector<Proposal> late_proposals(const RewriteRequest& need) {
  const auto* offered = offer<Spellings>(need.reference.format);
  return offered ? offered->late_proposals(need) : std::vector<Proposal>();
}

std::optional<Spellings::Reason> why_not(const ReferenceGraph& graph, const Reference& reference,
                                         const RelPath& new_base, const RelPath& target) {
  const auto* offered = offer<Spellings>(reference.format);
  return offered ? offered->why_not(graph, reference, new_base, target) : std::nullopt;
}

std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                      const TreeReader& tree) {
  const auto* offered = offer<SearchRoots>(unit.format);
  return offered ? offered->add_search_root(graph, unit, root, tree) : std::vector<Proposal>();
}

}  // namespace yc
