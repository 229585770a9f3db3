#include "plan/carve.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/capabilities/carving.h"
#include "formats/capabilities/unit_making.h"
#include "plan/carve_out.h"
#include "plan/rebase.h"
#include "plan/same_meaning.h"

namespace yc {

namespace {

ReferenceGraph graph_of(const TreeReader& tree) {
  FactsCache cache;
  return read_graph(tree, cache);
}

// The nearest script upwards of the folder.
std::optional<RelPath> script_above(const TreeReader& tree, const Carver& carver, const RelPath& folder) {
  for (RelPath up = folder; !up.is_root();) {
    up = up.parent();
    for (const std::string& name : tree.children(up)) {
      RelPath path = up / name;
      const Entry* entry = tree.find(path);
      bool counts = entry && entry->kind == EntryKind::file && !entry->guarded && !entry->ignored;
      if (counts && carver.is_script(path)) return path;
    }
  }
  return std::nullopt;
}

// Reads the planned tree and compares. Leaves the plan verified, or says what differs.
void verify(const TreeReader& tree, const ReferenceGraph& before, Plan& plan, Carved carved) {
  std::set<RelPath> scripts = plan.changes.dropped;
  for (const auto& [path, bytes] : plan.changes.made) scripts.insert(path);
  for (const auto& [path, edits] : plan.edits) scripts.insert(path);
  OverlayTree after(tree, plan.moves, plan.changes);
  after.set_edits(&plan.edits);
  std::vector<Blocker> found = differences(before, graph_of(after), scripts, carved);
  std::move(found.begin(), found.end(), std::back_inserter(plan.blockers));
  plan.verified = plan.blockers.empty();
  list_edits(
      tree, [](const RelPath&, const Span&) { return false; }, plan);
}

Status check_folder(const TreeReader& tree, const RelPath& folder) {
  const Entry* entry = tree.find(folder);
  if (!entry || entry->kind != EntryKind::folder)
    return Error{Failure::usage, folder.str(), "there is no such folder", ""};
  if (folder.is_root())
    return Error{Failure::usage, ".", "is the root, and no script stands above it", "name a folder below it"};
  if (entry->ignored || entry->guarded)
    return Error{Failure::usage, folder.str(), "is ignored or protected", "name a folder of sources"};
  return {};
}

}  // namespace

namespace {

using AskedChange = std::function<std::optional<UnitChange>(const UnitMaking&, const TreeView&)>;

// Lists of units follow: what is made is listed, what goes is not any more.
void follow_lists(const TreeReader& tree, const ReferenceGraph& graph, UnitChange& change) {
  ClaimedFiles claimed = claimed_files(tree);
  auto add = [&](std::vector<Edit> edits) {
    std::move(edits.begin(), edits.end(), std::back_inserter(change.edits));
  };
  for (const auto& lists : all_that_offer<UnitLists>()) {
    TreeView view{{tree, graph}, claimed[lists.format]};
    for (const MadeUnit& unit : change.units) add(lists.what->list_unit(view, unit));
    for (const RelPath& file : change.dropped) add(lists.what->unlist_unit(view, file));
  }
}

// What all formats that make units have to say.
UnitChange unit_change(const TreeReader& tree, const ReferenceGraph& graph, const AskedChange& ask) {
  UnitChange out;
  ClaimedFiles claimed = claimed_files(tree);
  for (const auto& making : all_that_offer<UnitMaking>()) {
    auto more = ask(*making.what, {{tree, graph}, claimed[making.format]});
    if (!more) continue;
    out.made.merge(more->made);
    out.dropped.merge(more->dropped);
    std::move(more->edits.begin(), more->edits.end(), std::back_inserter(out.edits));
    std::move(more->blockers.begin(), more->blockers.end(), std::back_inserter(out.blockers));
    std::move(more->units.begin(), more->units.end(), std::back_inserter(out.units));
    std::move(more->notices.begin(), more->notices.end(), std::back_inserter(out.notices));
  }
  follow_lists(tree, graph, out);
  return out;
}

bool is_empty(const UnitChange& change) {
  return change.made.empty() && change.dropped.empty() && change.blockers.empty();
}

void put_into(Plan& plan, const UnitChange& change) {
  for (const auto& [path, bytes] : change.made) plan.changes.made[path] = bytes;
  plan.changes.dropped.insert(change.dropped.begin(), change.dropped.end());
  for (const Edit& edit : change.edits) {
    if (plan.edits[edit.file].add(edit.span, edit.text, edit.pair)) continue;
    plan.blockers.push_back({"clash", edit.file, edit.span, "",
                             "would have to be written in two ways at once",
                             "write the two statements apart first"});
  }
  plan.notices.insert(plan.notices.end(), change.notices.begin(), change.notices.end());
  plan.blockers.insert(plan.blockers.end(), change.blockers.begin(), change.blockers.end());
}

Plan unit_plan(const TreeReader& tree, const ReferenceGraph& graph, const UnitChange& change) {
  Plan plan;
  plan.references_read = graph.references.size();
  put_into(plan, change);
  verify(tree, graph, plan, Carved::unit);
  return plan;
}

}  // namespace

Result<Plan> join(const TreeReader& tree, const RelPath& folder, const std::string& unit) {
  if (Status ok = check_folder(tree, folder); !ok) return ok.error();
  ReferenceGraph graph = graph_of(tree);
  UnitChange change = unit_change(tree, graph, [&](const UnitMaking& making, const TreeView& view) {
    return making.join_unit(view, folder, unit);
  });
  if (is_empty(change))
    return Error{Failure::usage, unit, "is no unit that a folder can join",
                 "yellow-compass survey lists the units"};
  return unit_plan(tree, graph, change);
}

Result<Plan> carve(const TreeReader& tree, const RelPath& folder) {
  if (Status ok = check_folder(tree, folder); !ok) return ok.error();
  ReferenceGraph graph = graph_of(tree);
  std::vector<std::string> looked_at;
  std::vector<CarveOut> scripts;
  for (std::size_t i = 0; i < formats().size(); ++i) {
    const auto* offers = offer<Carving>(*formats()[i]);
    auto script = offers ? script_above(tree, offers->carver(), folder) : std::nullopt;
    if (!script) continue;
    looked_at.push_back(script->str());
    CarveOut one(tree, graph, static_cast<std::uint8_t>(i), *script, folder);
    if (one.choose()) scripts.push_back(std::move(one));
  }
  if (scripts.empty()) {
    UnitChange unit = unit_change(tree, graph, [&](const UnitMaking& making, const TreeView& view) {
      return making.make_unit(view, folder);
    });
    if (!is_empty(unit)) return unit_plan(tree, graph, unit);
  }
  if (looked_at.empty())
    return Error{Failure::usage, folder.str(), "has no build script above it that could give anything", ""};
  if (scripts.empty()) {
    return Error{Failure::usage, folder.str(),
                 fmt::format("no statement of {} is about this folder alone", fmt::join(looked_at, " or ")),
                 "yellow-compass refs shows what names it"};
  }
  auto planned = [&](bool looks_above) {
    Plan plan;
    plan.references_read = graph.references.size();
    for (CarveOut& one : scripts) one.put_into(plan, looks_above);
    verify(tree, graph, plan, Carved::script);
    return plan;
  };
  Plan plan = planned(false);
  if (plan.verified) return plan;
  // Includes that were found in the folder of the script above need to be told of it.
  Plan other = planned(true);
  return other.verified ? other : plan;
}

namespace {

// A script that has the folder's own one read, and the statement that does.
struct ScriptCall {
  std::uint8_t format = 0;
  RelPath script, child;
  ScriptPart part;
};

std::vector<ScriptCall> readings_of(const TreeReader& tree, const ReferenceGraph& graph,
                                    const RelPath& folder) {
  std::vector<ScriptCall> out;
  for (const Reference& reference : graph.references) {
    if (reference.role != Role::subfolder && reference.role != Role::script) continue;
    const auto* offers = offer<Carving>(reference.format);
    Standing at = standing_of(reference);
    if (!offers || at.file == kNoFile) continue;
    const Carver& carver = offers->carver();
    RelPath script = graph.files.path(at.file);
    auto bytes = tree.read(script);
    if (!bytes) continue;
    for (const Target& target : reference.targets) {
      RelPath child = target.path == folder ? folder / carver.script_name(**bytes) : target.path;
      if (child.parent() != folder || !tree.is_file(child) || script.parent() == folder) continue;
      for (ScriptPart& part : carver.parts(**bytes)) {
        bool is_call =
            !part.enters.empty() && part.sentence.begin <= at.span.begin && at.span.end <= part.sentence.end;
        bool known = std::any_of(out.begin(), out.end(), [&](const ScriptCall& reading) {
          return reading.script == script && reading.part.span == part.span;
        });
        if (is_call && !known) out.push_back({reference.format, script, child, std::move(part)});
      }
    }
  }
  return out;
}

void fold_one(const TreeReader& tree, const ReferenceGraph& graph, const ScriptCall& reading, Plan& plan) {
  const Carver& carver = offer<Carving>(reading.format)->carver();
  auto child = tree.read(reading.child), parent = tree.read(reading.script);
  if (!child || !parent) return;
  std::string text = **child;
  if (std::string why = carver.keeps_apart(**child, **parent); !why.empty()) {
    plan.blockers.push_back(
        {"apart", reading.child, {}, "", "cannot be taken in: " + why, "move that out of it first"});
  }
  if (carver.is_relative()) {
    Span all{0, static_cast<std::uint32_t>(text.size())};
    FileEdits edits;
    for (const Edit& edit :
         rebased({tree, graph, carver, reading.child, {all}, reading.script.parent()}, plan.blockers))
      edits.add(edit.span, edit.text);
    text = edits.apply(text);
  }
  while (text.starts_with("\n")) text.erase(0, 1);
  while (text.ends_with("\n\n")) text.pop_back();
  if (!text.empty() && !text.ends_with("\n")) text += "\n";
  Span span = reading.part.sentence;
  std::string_view bytes = **parent;
  if (span.end < bytes.size() && bytes[span.end] == '\n') ++span.end;
  plan.edits[reading.script].add(span, text);
  plan.changes.dropped.insert(reading.child);
}

}  // namespace

Result<Plan> fold(const TreeReader& tree, const RelPath& folder) {
  if (Status ok = check_folder(tree, folder); !ok) return ok.error();
  ReferenceGraph graph = graph_of(tree);
  std::vector<ScriptCall> readings = readings_of(tree, graph, folder);
  if (readings.empty()) {
    UnitChange unit = unit_change(tree, graph, [&](const UnitMaking& making, const TreeView& view) {
      return making.drop_unit(view, folder);
    });
    if (!is_empty(unit)) return unit_plan(tree, graph, unit);
    return Error{Failure::usage, folder.str(),
                 "no build script has one of this folder read by a statement of its own",
                 "yellow-compass refs shows what names it"};
  }
  Plan plan;
  plan.references_read = graph.references.size();
  std::set<RelPath> children;
  for (const ScriptCall& reading : readings) {
    if (!children.insert(reading.child).second) {
      plan.blockers.push_back({"apart", reading.script, reading.part.sentence, "",
                               "has the folder's script read a second time", "leave one of the two"});
      continue;
    }
    fold_one(tree, graph, reading, plan);
  }
  verify(tree, graph, plan, Carved::script);
  return plan;
}

}  // namespace yc
