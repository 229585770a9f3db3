#include "plan/forwarders.h"
#include "formats/capabilities/companions.h"

#include <algorithm>
#include <map>

namespace yc {

std::vector<Forwarder> find_forwarders(const TreeReader& tree, const ReferenceGraph& graph) {
  std::map<RelPath, Forwarder> found;
  for (const RelPath& path : tree.files()) {
    const Entry* entry = tree.find(path);
    if (!entry || entry->kind != EntryKind::file || entry->ignored || entry->size > 1000) continue;
    auto bytes = tree.read(path);
    if (!bytes) continue;
    for (const auto& format : all_that_offer<Forwarding>()) {
      auto target = format->forwards_to(path, **bytes);
      if (target && *target != path && tree.is_file(*target)) found[path] = {path, *target, {}};
    }
  }
  for (std::size_t i = 0; i < graph.references.size() && !found.empty(); ++i) {
    // A pattern takes in what is there, and does not ask for it.
    const std::vector<Piece>& pieces = graph.references[i].text.pieces();
    bool is_spelled =
        !graph.references[i].is_pattern() &&
        std::any_of(pieces.begin(), pieces.end(), [](const Piece& piece) { return piece.has_origin(); });
    if (!is_spelled) continue;
    for (const Target& target : graph.references[i].targets) {
      auto at = target.kind == Target::Kind::tree ? found.find(target.path) : found.end();
      if (at == found.end()) continue;
      if (at->second.users.empty() || at->second.users.back() != static_cast<std::int32_t>(i))
        at->second.users.push_back(static_cast<std::int32_t>(i));
    }
  }
  std::vector<Forwarder> out;
  for (auto& [path, forwarder] : found) out.push_back(std::move(forwarder));
  return out;
}

FileChanges leave_forwarders(const TreeReader& tree, const MoveSet& moves) {
  FileChanges out;
  for (const Move& move : moves.files()) {
    auto bytes = tree.read(move.from);
    if (!bytes) continue;
    for (const auto& format : all_that_offer<Forwarding>()) {
      RelPath place = format->forwarder_place(move.from, move.to);
      bool is_free = moves.unmap_file(place) == place && (place == move.from || !tree.find(place));
      auto text = is_free ? format->forwarder(tree, move.from, move.to, **bytes) : std::nullopt;
      if (!text) continue;
      out.made[place] = std::move(*text);
      if (place != move.from) out.stand_ins[place] = move.to;
    }
  }
  return out;
}

bool leaves_names(const MoveSet& moves) {
  return std::any_of(moves.files().begin(), moves.files().end(), [](const Move& move) {
    auto all = all_that_offer<Forwarding>();
    return std::any_of(all.begin(), all.end(), [&](const auto& format) { return format->leaves_name(move); });
  });
}

Plan drop_forwarders(const TreeReader& tree, const std::vector<Forwarder>& forwarders, PlanOptions options) {
  std::map<RelPath, RelPath> target_of;
  for (const Forwarder& item : forwarders) target_of[item.path] = item.target;
  std::vector<Move> pairs;
  for (const Forwarder& item : forwarders) {
    RelPath target = item.target;  // one forwarder may lead to another
    for (std::size_t i = 0; i < forwarders.size() && target_of.contains(target); ++i)
      target = target_of.at(target);
    pairs.push_back({item.path, target});
    options.changes.dropped.insert(item.path);
  }
  // Nothing moves: users are led there, and nobody's search roots change for that.
  std::erase(options.include_order, IncludeForm::header_root);
  return make_plan(tree, MoveSet::merging(pairs), options);
}

}  // namespace yc
