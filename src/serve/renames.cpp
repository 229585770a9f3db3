#include "serve/renames.h"

#include <fmt/format.h>

#include <algorithm>

#include "carry/folders.h"
#include "carry/recovery.h"
#include "plan/catch_up.h"
#include "report/patch.h"
#include "report/text.h"
#include "serve/edits.h"
#include "tree/ignore_rules.h"

namespace yc::serve {

namespace {

using Planned = std::variant<PlannedRename, Refusal>;

Refusal refused(const Error& error) {
  std::string text = report::error_text(error);
  while (text.ends_with('\n')) text.pop_back();
  return {text, text + "\n"};
}

Refusal refused(const Plan& plan, const TreeReader& tree) {
  Refusal out;
  out.whole = report::unsettled_text(plan, tree, {false, true});
  if (plan.blockers.empty()) {
    out.line = "nothing was changed";
    return out;
  }
  const Blocker& first = plan.blockers.front();
  std::string text = first.text.empty() ? "" : "\"" + report::printable(first.text) + "\" ";
  out.line = fmt::format("nothing was changed: {}: {}{}", report::place_text(first.file, first.span, tree),
                         text, report::printable(first.reason));
  if (!first.next.empty()) out.line += "; " + report::printable(first.next);
  if (plan.blockers.size() > 1)
    out.line +=
        fmt::format(" (and {})", report::count(plan.blockers.size() - 1, "more place", "more places"));
  return out;
}

// Fails if an earlier move of the tree was not finished.
Status check_finished(const Workspace& workspace, FileSystem& disk) {
  auto state = State::open(disk, workspace.place());
  if (!state) return state.error();
  auto open = unfinished(disk, *state);
  if (!open) return open.error();
  return *open ? Status(unfinished_error(**open)) : Status();
}

// Of the edits of a plan, once they are saved.
Result<MadeMove> record_of(const Asked& asked, const Plan& plan, const std::string& command) {
  MadeMove out;
  const TreeReader& tree = asked.workspace.tree();
  out.command = command;
  for (const auto& [file, edits] : plan.edits) {
    if (edits.empty()) continue;
    auto bytes = tree.read(file);
    if (!bytes) return bytes.error();
    out.edits[file] = {**bytes, edits.apply(**bytes)};
  }
  auto patch = report::patch_text(plan, tree);
  if (!patch) return patch.error();
  out.patch = std::move(*patch);
  return out;
}

Status add_moves(const Asked& asked, const Plan& plan, FileSystem& disk, MadeMove& record) {
  const TreeReader& tree = asked.workspace.tree();
  record.requested = plan.moves.requested();
  record.files = plan.moves.files();
  Folders folders = folders_of(tree, plan);
  for (const RelPath& folder : folders.made) record.made.push_back({folder, 0});
  for (const RelPath& folder : folders.removed) {
    auto info = disk.info(asked.workspace.absolute(folder));
    if (!info) return info.error();
    record.removed.push_back({folder, info->mode});
  }
  return {};
}

PlannedRename planned(json edit, MadeMove record, const Plan& plan) {
  PlannedRename out;
  out.edits = plan.edit_list.size();
  out.files = record.edits.size();
  bool is_empty = record.edits.empty() && !edit.contains("documentChanges");
  if (edit.contains("documentChanges")) is_empty = edit["documentChanges"].empty();
  if (!is_empty) out.edit = std::move(edit);
  out.record = std::move(record);
  return out;
}

std::string named(const Asked& asked, const std::string& what) {
  return asked.client.name.empty() ? what + " in an editor" : what + " in " + asked.client.name;
}

}  // namespace

Planned plan_rename(const Asked& asked, const std::vector<Move>& moves,
                    const std::function<bool()>& is_unwanted) {
  Workspace& workspace = asked.workspace;
  const TreeReader& tree = workspace.tree();
  DiskFileSystem disk(writable_folders(workspace.root()));
  if (Status ok = check_finished(workspace, disk); !ok) return refused(ok.error());
  std::vector<Move> all = with_sidecars(tree, moves, workspace.config().sidecars);
  auto set = MoveSet::make(tree, all);
  if (!set) return refused(set.error());
  if (Status ok = check_not_ignored(workspace.root(), *set); !ok) return refused(ok.error());
  if (!set->nested().empty())
    return refused(Error{Failure::unsettled, set->nested().front().from.str(),
                         "is a repository of its own, whose data an editor does not move along",
                         "move it with yellow-compass move instead"});
  Plan plan = workspace.plan(std::move(*set), is_unwanted);
  if (is_unwanted && is_unwanted()) return Refusal{"is not wanted any more", ""};
  if (!plan.verified) return refused(plan, tree);
  std::vector<Move> along;
  for (const Move& move : all) {
    if (std::find(moves.begin(), moves.end(), move) == moves.end()) along.push_back(move);
  }
  auto edit = workspace_edit(asked, plan, along);
  if (!edit) return refused(edit.error());
  auto record = record_of(asked, plan, named(asked, "rename"));
  if (!record) return refused(record.error());
  if (Status ok = add_moves(asked, plan, disk, *record); !ok) return refused(ok.error());
  return planned(std::move(*edit), std::move(*record), plan);
}

Planned planned_edits(const Asked& asked, const Plan& plan, const std::string& command) {
  if (!plan.verified && !plan.in_part) return refused(plan, asked.workspace.tree());
  auto edit = workspace_edit(asked, plan);
  if (!edit) return refused(edit.error());
  auto record = record_of(asked, plan, named(asked, command));
  if (!record) return refused(record.error());
  return planned(std::move(*edit), std::move(*record), plan);
}

Planned plan_catch_up(const Asked& asked, const std::vector<Move>& moves) {
  auto caught = catch_up(asked.workspace.tree(), moves, asked.workspace.plan_options());
  if (!caught) return refused(caught.error());
  return planned_edits(asked, caught->mending, "catch-up");
}

}  // namespace yc::serve
