#include "inspect/inspect.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "formats/format.h"
#include "formats/unread_languages.h"
#include "inspect/contexts.h"
#include "inspect/dangling.h"
#include "inspect/lacking.h"
#include "inspect/managed.h"
#include "inspect/reviewed.h"
#include "inspect/source_units.h"
#include "inspect/units.h"
#include "plan/ambiguity.h"
#include "plan/forwarders.h"
#include "plan/restyle.h"

namespace yc {

Seen as_seen(const ReferenceGraph& graph, const Reference& reference) {
  Seen out;
  Standing place = standing_of(reference);
  if (place.file != kNoFile) {
    out.file = graph.files.path(place.file);
    out.span = place.span;
    out.has_place = true;
  }
  for (char c : reference.text.text()) out.text += c == kHoleMark ? "…" : std::string(1, c);
  if (std::size_t mark = out.text.find(kTreeMark); mark == 0) {
    out.text = out.text.size() > kTreeMark.size() + 1 ? out.text.substr(kTreeMark.size() + 1) : ".";
  }
  out.role = reference.role;
  out.likely = reference.certainty == Certainty::likely;
  for (const Target& target : reference.targets) {
    if (target.kind == Target::Kind::tree) out.targets.push_back(target.path);
  }
  return out;
}

namespace {

auto order(const Seen& seen) {
  return std::tuple(seen.file, seen.span, seen.text, seen.role);
}

void tidy(std::vector<Seen>& list) {
  std::sort(list.begin(), list.end(), [](const Seen& a, const Seen& b) { return order(a) < order(b); });
  list.erase(std::unique(list.begin(), list.end(),
                         [](const Seen& a, const Seen& b) { return order(a) == order(b); }),
             list.end());
}

}  // namespace

Neighbours neighbours(const TreeReader& tree, const ReferenceGraph& graph, const RelPath& path) {
  Neighbours out;
  out.path = path;
  bool is_folder = tree.is_folder(path);
  UnitNames names(graph);
  std::set<std::string> units = names.reaching(graph, path);
  out.units.assign(units.begin(), units.end());
  for (const Reference& reference : graph.references) {
    bool leads_here = false, leads_inside = false;
    for (const Target& target : reference.targets) {
      if (target.kind != Target::Kind::tree) continue;
      leads_here = leads_here || target.path == path;
      leads_inside = leads_inside || (is_folder && target.path.is_within(path));
    }
    Seen seen = as_seen(graph, reference);
    tell_units(names, reference, seen);
    bool stands_here = seen.has_place && (seen.file == path || (is_folder && seen.file.is_within(path)));
    if ((leads_here || leads_inside) && !stands_here) out.incoming.push_back(seen);
    bool leads_out = std::any_of(seen.targets.begin(), seen.targets.end(), [&](const RelPath& target) {
      return !is_folder || !target.is_within(path);
    });
    if (stands_here && leads_out) out.outgoing.push_back(std::move(seen));
  }
  tidy(out.incoming);
  tidy(out.outgoing);
  return out;
}

Finding finding_at(const ReferenceGraph& graph, const Reference& reference, std::string id) {
  Seen view = as_seen(graph, reference);
  Finding out;
  out.id = std::move(id);
  out.file = view.file;
  out.span = view.span;
  out.has_place = view.has_place;
  return out;
}

namespace {

void add_ambiguities(const TreeReader& tree, const ReferenceGraph& graph, std::vector<Finding>& out) {
  for (const Shadowing& shadow : shadowed_includes(tree, graph)) {
    const Reference& reference = graph.references[static_cast<std::size_t>(shadow.reference)];
    Finding finding = finding_at(graph, reference, "shadowed");
    finding.message = fmt::format("include {} means {}, and hides {}", reference.text.text(),
                                  shadow.chosen.str(), shadow.other.str());
    out.push_back(std::move(finding));
  }
  for (const ObjectClash& clash : graph.clashes) {
    Finding finding;
    finding.id = "object-clash";
    if (clash.site.file != kNoFile) {
      finding.file = graph.files.path(clash.site.file);
      finding.span = {clash.site.offset, clash.site.offset};
      finding.has_place = true;
    }
    finding.message = clash_text(clash);
    out.push_back(std::move(finding));
  }
}

void add_forwarders(const TreeReader& tree, const ReferenceGraph& graph, std::vector<Finding>& out) {
  for (const Forwarder& item : find_forwarders(tree, graph)) {
    Finding finding;
    finding.id = "forwarder";
    finding.file = item.path;
    finding.is_note = item.users.empty();
    std::string users = item.users.empty() ? "nothing in this tree uses it" : "still used from ";
    for (std::size_t i = 0; i < item.users.size(); ++i) {
      Seen user = as_seen(graph, graph.references[static_cast<std::size_t>(item.users[i])]);
      if (i == 3) {
        users += fmt::format(" and {} more places", item.users.size() - 3);
        break;
      }
      users += (i > 0 ? ", " : "") + user.file.str();
    }
    finding.message = fmt::format("forwards to {}; {}", item.target.str(), users);
    out.push_back(std::move(finding));
  }
}

void add_rule_breaks(const ReferenceGraph& graph, std::size_t alias_from, std::vector<Finding>& out) {
  for (const AgainstRule& item : against_rule(graph, alias_from)) {
    const Reference& reference = graph.references[static_cast<std::size_t>(item.reference)];
    bool far = item.steps >= alias_from;
    Finding finding = finding_at(graph, reference, "against-rule");
    finding.message =
        fmt::format("module {} {} {} folders; the rule asks for {}", reference.text.text(),
                    far ? "climbs" : "would climb", item.steps, far ? "an alias" : "a relative specifier");
    finding.suggestion = item.wanted;
    out.push_back(std::move(finding));
  }
}

}  // namespace

std::vector<Finding> check(const TreeReader& tree, const ReferenceGraph& graph, std::size_t alias_from,
                           const IsIgnored& is_ignored) {
  std::vector<Finding> out;
  if (alias_from != kNoRule) add_rule_breaks(graph, alias_from, out);
  add_ambiguities(tree, graph, out);
  add_forwarders(tree, graph, out);
  for (Finding& item : check_lacking(tree, graph)) out.push_back(std::move(item));
  for (ManagedFinding& item : check_managed(tree, graph)) {
    if (item.finding.id != "dangling") out.push_back(std::move(item.finding));
  }
  for (Finding& item : check_dangling(tree, graph, is_ignored)) out.push_back(std::move(item));
  for (Finding& item : check_reviewed(tree, graph)) out.push_back(std::move(item));
  for (const Notice& notice : graph.notices) {
    if (notice.id.starts_with('~')) continue;  // a format's own, to compare trees by
    out.push_back({notice.id, notice.file, notice.span, notice.has_place, notice.message, ""});
  }
  std::sort(out.begin(), out.end(), [](const Finding& a, const Finding& b) {
    return std::tie(a.file, a.span, a.id) < std::tie(b.file, b.span, b.id);
  });
  return out;
}

namespace {

// Units that are known by a file of theirs alone: projects that list their members, and definitions that take
// what lies below them.
void add_boundaries(const TreeReader& tree, const ReferenceGraph& graph, Survey& out) {
  std::set<RelPath> known;
  for (const Unit& unit : graph.units) {
    if (unit.site.file != kNoFile) known.insert(graph.files.path(unit.site.file));
  }
  UnitMap map(tree, graph);
  std::vector<RelPath> sources_here;
  for (const RelPath& path : tree.files()) {
    if (is_source_code(path)) sources_here.push_back(path);
  }
  for (std::size_t i = 0; i < map.all().size(); ++i) {
    const UnitInfo& unit = map.all()[i];
    bool is_boundary =
        std::any_of(graph.boundaries.begin(), graph.boundaries.end(),
                    [&](const Boundary& each) { return each.file == unit.file && each.joins.is_root(); });
    if (!is_boundary || known.contains(unit.file)) continue;
    std::size_t sources = unit.members.size();
    if (unit.nearest) {
      sources = static_cast<std::size_t>(
          std::count_if(sources_here.begin(), sources_here.end(), [&](const RelPath& path) {
            std::vector<std::size_t> owners = map.owners(path);
            return std::find(owners.begin(), owners.end(), i) != owners.end();
          }));
    }
    out.units.push_back({unit.name, unit.kind, sources, {}});
  }
  for (const SourceUnit& unit : source_units(tree, graph))
    out.units.push_back({unit.name, unit.kind, unit.members.size(), {}});
}

// Sources and scripts of languages that no format reads, by their endings.
void add_unread(const TreeReader& tree, const ReferenceGraph& graph, Survey& out) {
  std::set<RelPath> crates;
  for (const Boundary& one : graph.boundaries) {
    if (one.kind == "crate") crates.insert(one.file.parent());
  }
  // Sources of a crate are read, loose ones are not.
  auto is_of_crate = [&](const RelPath& path) {
    for (RelPath up = path.parent();; up = up.parent()) {
      if (crates.contains(up) || up.is_root()) return crates.contains(up);
    }
  };
  for (const RelPath& path : tree.files()) {
    const Entry* entry = tree.find(path);
    if (!entry || entry->ignored) continue;
    auto language = unread_source_language(path);
    auto tool = unread_build_tool(path);
    if (language && path.extension() == ".rs" && is_of_crate(path)) continue;
    if (language) ++out.unread[std::string(*language)];
    if (tool) ++out.unread[std::string(*tool)];
  }
}

void count_absent(const TreeReader& tree, Survey& out) {
  for (const RelPath& path : tree.files()) out.absent += tree.find(path)->absent;
  out.may_lack_files = tree.may_lack_files();
}

}  // namespace

Survey survey(const TreeReader& tree, const ReferenceGraph& graph) {
  Survey out;
  out.files = tree.files().size();
  count_absent(tree, out);
  out.files_by_format = graph.files_by_format;
  std::map<std::pair<std::string, std::uint8_t>, std::pair<std::set<RelPath>, std::set<RelPath>>> units;
  std::map<RelPath, std::set<std::string>> roots;
  for (const Unit& unit : graph.units) units[{unit.name, unit.format}];
  for (const Compilation& item : graph.compilations) {
    if (item.unit < 0) continue;
    const Unit& unit = graph.units[static_cast<std::size_t>(item.unit)];
    auto& [sources, folders] = units[{unit.name, unit.format}];
    sources.insert(item.source);
    for (const SearchRoot& root : graph.contexts[static_cast<std::size_t>(item.context)].roots) {
      if (root.place.space != Space::tree) continue;
      folders.insert(root.place.path);
      roots[root.place.path].insert(unit.name);
    }
  }
  for (const auto& [key, content] : units) {
    out.units.push_back({key.first,
                         std::string(format_at(key.second).unit_kind()),
                         content.first.size(),
                         {content.second.begin(), content.second.end()}});
  }
  add_boundaries(tree, graph, out);
  add_unread(tree, graph, out);
  std::stable_sort(out.units.begin(), out.units.end(),
                   [](const auto& a, const auto& b) { return a.name < b.name; });
  for (const auto& [root, users] : roots) out.search_roots[root] = users.size();
  std::map<std::string, std::set<RelPath>> patterns;
  for (const Reference& reference : graph.references) {
    ++out.by_role[std::string(name_of(reference.role))];
    if (reference.certainty == Certainty::likely) ++out.likely;
    if (!reference.is_pattern()) continue;
    Seen seen = as_seen(graph, reference);
    Place place = place_of(reference.base.folder, reference.text.text(), reference.base.space);
    std::string text = place.space == Space::tree ? place.path.str() : seen.text;
    if (reference.is_deep()) text += "/**/" + reference.glob()->names;
    patterns[text].insert(seen.targets.begin(), seen.targets.end());
  }
  for (const Finding& finding : check(tree, graph))
    out.dangling += finding.id == "dangling" || finding.id == "missing-search-root" ? 1 : 0;
  for (const auto& [text, targets] : patterns) out.patterns[text] = targets.size();
  out.unseen = graph.holes.size();
  out.seen = overview(tree, graph);
  for (const Alias& alias : graph.aliases) {
    auto same = [&](const Alias& other) {
      return other.head == alias.head && other.tail == alias.tail && other.place == alias.place &&
             other.settings == alias.settings;
    };
    // A package's own name says nothing new.
    bool is_choice = !alias.head.empty() || alias.styles;
    if (is_choice && std::none_of(out.aliases.begin(), out.aliases.end(), same)) out.aliases.push_back(alias);
  }
  std::sort(out.aliases.begin(), out.aliases.end(), [](const Alias& a, const Alias& b) {
    return std::tie(a.head, a.settings) < std::tie(b.head, b.settings);
  });
  return out;
}

}  // namespace yc
