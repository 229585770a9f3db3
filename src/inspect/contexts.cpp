#include "inspect/contexts.h"

namespace yc {

UnitNames::UnitNames(const ReferenceGraph& graph) {
  for (const Compilation& item : graph.compilations) {
    if (item.unit >= 0)
      by_context_[item.context].insert(graph.units[static_cast<std::size_t>(item.unit)].name);
  }
}

const std::set<std::string>& UnitNames::of(ContextIndex context) const {
  static const std::set<std::string> none;
  auto at = by_context_.find(context);
  return at == by_context_.end() ? none : at->second;
}

std::set<std::string> UnitNames::reaching(const ReferenceGraph& graph, const RelPath& path) const {
  std::set<std::string> out;
  for (const Compilation& item : graph.compilations) {
    if (item.source == path && item.unit >= 0)
      out.insert(graph.units[static_cast<std::size_t>(item.unit)].name);
  }
  for (const Reference& reference : graph.references) {
    if (reference.role != Role::include) continue;
    for (const InContext& in : reference.contexts) {
      if (in.found && !in.is_made && in.target == path)
        out.insert(of(in.context).begin(), of(in.context).end());
    }
  }
  return out;
}

void tell_units(const UnitNames& names, const Reference& reference, Seen& seen) {
  if (reference.role != Role::include) return;
  std::map<RelPath, std::set<std::string>> by_target;
  for (const InContext& in : reference.contexts) {
    if (in.is_made) continue;
    RelPath target = in.found ? in.target : RelPath();
    by_target[target].insert(names.of(in.context).begin(), names.of(in.context).end());
  }
  if (by_target.size() < 2) return;
  for (const auto& [target, units] : by_target) {
    if (!units.empty()) seen.by_unit.push_back({target, {units.begin(), units.end()}});
  }
}

}  // namespace yc
