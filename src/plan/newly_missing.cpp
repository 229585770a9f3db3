#include "plan/newly_missing.h"

#include <map>
#include <set>
#include <string>
#include <unordered_map>

namespace yc {

namespace {

// Search roots may be left without use, and what is made counts by its folder.
bool asks_in_vain(const Reference& reference) {
  return reference.dangling && reference.targets.empty() && reference.role != Role::search_root &&
         reference.role != Role::product && reference.role != Role::include;
}

}  // namespace

std::vector<Mismatch> newly_missing(const ReferenceGraph& before, const ReferenceGraph& after,
                                    const Image& image, const PlannedNames& names, const MoveSet& moves) {
  std::map<std::string, std::set<std::string>> missing;
  for (const Reference& reference : after.references) {
    if (asks_in_vain(reference)) missing[names.key(reference)].insert(reference.text.text());
  }
  std::vector<Mismatch> out;
  if (missing.empty()) return out;
  std::set<std::string> widened;  // constructs that the plan gave one more name
  for (const Reference& reference : after.references) {
    if (names.is_put_in(reference)) widened.insert(names.key(reference));
  }
  std::map<std::string, std::set<std::string>> missing_before;
  std::unordered_map<std::string, std::vector<std::int32_t>> leading;
  for (std::size_t i = 0; i < before.references.size(); ++i) {
    const Reference& reference = before.references[i];
    std::string key = image.key(reference);
    if (!missing.contains(key)) continue;
    if (asks_in_vain(reference)) missing_before[key].insert(reference.text.text());
    if (!reference.targets.empty()) leading[key].push_back(static_cast<std::int32_t>(i));
  }
  for (const auto& [key, texts] : missing) {
    if (!widened.contains(key) || texts.size() <= missing_before[key].size()) continue;
    const Reference* best = nullptr;
    std::int32_t index = -1;
    auto rank = [&, &texts = texts](const Reference& reference) {
      bool by_name = texts.contains(reference.text.text());
      return 2 * by_name + moves.moves(reference.targets.front().path);
    };
    for (std::int32_t at : leading[key]) {
      const Reference& reference = before.references[static_cast<std::size_t>(at)];
      if (rank(reference) > 0 && (!best || rank(reference) > rank(*best))) best = &reference, index = at;
    }
    if (best) out.push_back({Mismatch::Kind::lost, index, -1, best->targets.front(), {}});
  }
  return out;
}

}  // namespace yc
