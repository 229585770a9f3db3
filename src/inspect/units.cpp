#include "inspect/units.h"

#include "inspect/source_units.h"

#include <fmt/format.h>

#include <algorithm>
#include <deque>

namespace yc {

// Who includes a file: from each source that a unit compiles, along the includes that hold in its context.
void UnitMap::note_includers(const ReferenceGraph& graph, const std::vector<std::size_t>& number) {
  std::map<std::pair<ContextIndex, RelPath>, std::vector<RelPath>> included;
  for (const Reference& reference : graph.references) {
    if (reference.role != Role::include || reference.construct.empty()) continue;
    const RelPath& user = graph.files.path(reference.construct.front().file);
    for (const InContext& in : reference.contexts) {
      if (in.found && !in.is_made) included[{in.context, user}].push_back(in.target);
    }
  }
  for (const Compilation& item : graph.compilations) {
    if (item.unit < 0) continue;
    std::size_t unit = number[static_cast<std::size_t>(item.unit)];
    std::set<RelPath> reached;
    std::deque<RelPath> queue = {item.source};
    while (!queue.empty()) {
      auto found = included.find({item.context, queue.front()});
      queue.pop_front();
      if (found == included.end()) continue;
      for (const RelPath& target : found->second) {
        if (reached.insert(target).second) queue.push_back(target);
      }
    }
    for (const RelPath& target : reached) {
      std::vector<std::size_t>& known = includers_[target];
      if (std::find(known.begin(), known.end(), unit) == known.end()) known.push_back(unit);
    }
  }
}

UnitMap::UnitMap(const TreeReader& tree, const ReferenceGraph& graph) {
  ByFile by_file = take_boundaries(graph);
  std::vector<std::size_t> number = take_units(graph, by_file);
  for (const Compilation& item : graph.compilations) {
    if (item.unit >= 0) units_[number[static_cast<std::size_t>(item.unit)]].members.insert(item.source);
  }
  note_includers(graph, number);
  take_folders(tree, graph, by_file);
  take_source_units(tree, graph);
  for (std::size_t i = 0; i < units_.size(); ++i) {
    for (const RelPath& member : units_[i].members) owners_[member].push_back(i);
  }
  for (auto& [path, units] : includers_) {
    std::sort(units.begin(), units.end());
    units.erase(std::unique(units.begin(), units.end()), units.end());
  }
}

UnitMap::ByFile UnitMap::take_boundaries(const ReferenceGraph& graph) {
  ByFile by_file;
  for (const Boundary& boundary : graph.boundaries) {
    if (!boundary.joins.is_root()) continue;
    by_file[boundary.file] = units_.size();
    units_.push_back({boundary.name,
                      boundary.kind,
                      boundary.file,
                      boundary.members,
                      boundary.nearest,
                      {},
                      boundary.platforms});
  }
  for (const Boundary& boundary : graph.boundaries) {
    auto own = by_file.find(boundary.file);
    if (own == by_file.end()) continue;
    for (const RelPath& used : boundary.uses) {
      if (auto found = by_file.find(used); found != by_file.end())
        units_[own->second].uses.push_back(found->second);
    }
  }
  return by_file;
}

// The number here of each unit of the graph.
std::vector<std::size_t> UnitMap::take_units(const ReferenceGraph& graph, const ByFile& by_file) {
  std::map<std::pair<std::string, std::string>, std::size_t> by_name;  // kind and name
  std::vector<std::size_t> number(graph.units.size());
  auto kind_of = [](const Unit& unit) { return std::string(format_at(unit.format).unit_kind()); };
  for (std::size_t i = 0; i < graph.units.size(); ++i) {
    const Unit& unit = graph.units[i];
    RelPath file = unit.site.file == kNoFile ? RelPath() : graph.files.path(unit.site.file);
    if (auto known = by_file.find(file); known != by_file.end()) {
      number[i] = known->second;
      continue;
    }
    auto [at, fresh] = by_name.emplace(std::pair(kind_of(unit), unit.name), units_.size());
    number[i] = at->second;
    if (fresh) units_.push_back({unit.name, kind_of(unit), file, {}, false, {}, {}});
  }
  for (std::size_t i = 0; i < graph.units.size(); ++i) {
    for (const std::string& used : graph.units[i].uses) {
      auto found = by_name.find({kind_of(graph.units[i]), used});
      std::vector<std::size_t>& uses = units_[number[i]].uses;
      bool known = found == by_name.end() || std::find(uses.begin(), uses.end(), found->second) != uses.end();
      if (!known && found->second != number[i]) uses.push_back(found->second);
    }
  }
  return number;
}

// Units of languages whose build scripts name none.
void UnitMap::take_source_units(const TreeReader& tree, const ReferenceGraph& graph) {
  std::size_t first = units_.size();
  for (const SourceUnit& unit : source_units(tree, graph)) {
    units_.push_back({unit.name, unit.kind, unit.file, unit.members, false, {}, {}});
    for (std::size_t used : unit.uses) units_.back().uses.push_back(first + used);
    // What is in no assembly of its own sees all that are.
    for (std::size_t i = 0; unit.kind == "assembly" && i < first; ++i) {
      if (units_[i].kind == unit.kind) units_.back().uses.push_back(i);
    }
  }
}

// All below a boundary belong to it, up to the next one of its kind.
void UnitMap::take_folders(const TreeReader& tree, const ReferenceGraph& graph, const ByFile& by_file) {
  std::map<std::pair<std::string, RelPath>, std::size_t> folders;
  std::set<std::string> kinds;
  for (const Boundary& boundary : graph.boundaries) {
    if (!boundary.nearest) continue;
    auto unit = by_file.find(boundary.joins.is_root() ? boundary.file : boundary.joins);
    if (unit == by_file.end()) continue;
    folders[{boundary.kind, boundary.file.parent()}] = unit->second;
    kinds.insert(boundary.kind);
  }
  for (const RelPath& path : kinds.empty() ? std::vector<RelPath>() : tree.files()) {
    const Entry* entry = tree.find(path);
    if (!entry || entry->ignored) continue;
    for (const std::string& kind : kinds) {
      for (RelPath up = path.parent();; up = up.parent()) {
        auto found = folders.find({kind, up});
        if (found != folders.end()) units_[found->second].members.insert(path);
        if (found != folders.end() || up.is_root()) break;
      }
    }
  }
}

std::vector<std::size_t> UnitMap::owners(const RelPath& path) const {
  auto known = owners_.find(path);
  return known == owners_.end() ? std::vector<std::size_t>() : known->second;
}

std::vector<std::size_t> UnitMap::builders(const RelPath& path) const {
  std::vector<std::size_t> out = owners(path);
  auto known = includers_.find(path);
  for (std::size_t unit : known == includers_.end() ? std::vector<std::size_t>() : known->second) {
    if (std::find(out.begin(), out.end(), unit) == out.end()) out.push_back(unit);
  }
  return out;
}

std::map<std::size_t, std::size_t> UnitMap::users(const std::set<std::size_t>& units) const {
  std::map<std::size_t, std::size_t> out;
  std::deque<std::size_t> open(units.begin(), units.end());
  while (!open.empty()) {
    std::size_t used = open.front();
    open.pop_front();
    for (std::size_t i = 0; i < units_.size(); ++i) {
      bool uses = std::find(units_[i].uses.begin(), units_[i].uses.end(), used) != units_[i].uses.end();
      if (uses && !units.contains(i) && out.emplace(i, used).second) open.push_back(i);
    }
  }
  return out;
}

namespace {

Impact rebuilt(const UnitMap& map, const std::vector<RelPath>& files) {
  Impact out;
  out.files = files.size();
  out.units = map.all();
  std::map<std::size_t, std::pair<RelPath, std::size_t>> direct;  // the first file, and how many
  std::map<std::size_t, bool> owns;
  for (const RelPath& file : files) {
    std::vector<std::size_t> owners = map.owners(file);
    for (std::size_t unit : map.builders(file)) {
      auto [at, fresh] = direct.try_emplace(unit, file, 0);
      ++at->second.second;
      bool own = std::find(owners.begin(), owners.end(), unit) != owners.end();
      if (fresh) owns[unit] = own;
    }
  }
  std::set<std::size_t> first;
  for (const auto& [unit, seen] : direct) {
    first.insert(unit);
    std::string more = seen.second > 1 ? fmt::format(" and {} more", seen.second - 1) : "";
    out.rebuilt.push_back({map.all()[unit].name, map.all()[unit].kind,
                           (owns[unit] ? "builds " : "includes ") + seen.first.str() + more});
  }
  for (const auto& [unit, through] : map.users(first))
    out.rebuilt.push_back({map.all()[unit].name, map.all()[unit].kind, "uses " + map.all()[through].name});
  return out;
}

std::vector<std::string> names_of(const UnitMap& map, const std::vector<std::size_t>& units) {
  std::vector<std::string> out;
  for (std::size_t unit : units) out.push_back(map.all()[unit].name);
  std::sort(out.begin(), out.end());
  return out;
}

}  // namespace

Impact impact_of_change(const TreeReader& tree, const ReferenceGraph& graph,
                        const std::vector<RelPath>& paths) {
  std::vector<RelPath> files;
  for (const RelPath& path : tree.files()) {
    bool asked =
        std::any_of(paths.begin(), paths.end(), [&](const RelPath& one) { return path.is_within(one); });
    if (asked) files.push_back(path);
  }
  return rebuilt(UnitMap(tree, graph), files);
}

Impact impact_of_move(const ReadTree& before, const ReadTree& planned, const MoveSet& moves) {
  UnitMap old_map(before.tree, before.graph), new_map(planned.tree, planned.graph);
  std::vector<RelPath> files;
  for (const Move& move : moves.files()) files.push_back(move.from);
  Impact out = rebuilt(old_map, files);
  for (const Move& move : moves.files()) {
    std::vector<std::string> now = names_of(new_map, new_map.owners(move.to)),
                             then = names_of(old_map, old_map.owners(move.from));
    if (now != then) out.changes.push_back({move.from, move.to, then, now});
    bool was_built = !old_map.builders(move.from).empty();
    if (was_built && new_map.builders(move.to).empty()) out.unreached.push_back(move.to);
  }
  return out;
}

}  // namespace yc
