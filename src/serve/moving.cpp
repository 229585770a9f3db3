// Files that an editor renames or that were renamed without it.
#include <fmt/format.h>

#include <algorithm>

#include "report/text.h"
#include "serve/server.h"
#include "serve/uris.h"

namespace yc::serve {

namespace {

enum MessageType : int { kShowError = 1, kShowWarning = 2, kShowInformation = 3 };
constexpr std::size_t kMany = 2000;  // files of a tree in which a plan may take a while
constexpr const char* kShowAll = "Show all";

}  // namespace

void Server::show(int type, const std::string& text) {
  std::string line = text;
  while (line.ends_with('\n')) line.pop_back();
  out_.notify("window/showMessage", {{"type", type}, {"message", line}});
}

void Server::tell_refusal(const Refusal& refusal) {
  std::string path = refusal.whole.empty() ? "" : environment_.keep_text(refusal.whole);
  if (path.empty() || !client_.can_show_document) {
    show(kShowError, path.empty() ? refusal.line : refusal.line + ". All of it: " + path);
    return;
  }
  out_.ask("window/showMessageRequest",
           {{"type", static_cast<int>(kShowError)},
            {"message", refusal.line},
            {"actions", json::array({{{"title", kShowAll}}})}},
           [this, path](const json& chosen) {
             if (chosen.is_object() && chosen.value("title", "") == kShowAll)
               out_.ask("window/showDocument", {{"uri", uri_of(path)}, {"takeFocus", true}});
           });
}

// Gives the edit, null if there is nothing to edit, or the words of a refusal: an editor that asks does not
// rename then.
json Server::will_rename(const json& id, const json& params) {
  std::map<Workspace*, std::vector<Move>> moves;
  for (const json& file : params.at("files")) {
    auto from = path_of(file.at("oldUri").get_ref<const std::string&>());
    auto to = path_of(file.at("newUri").get_ref<const std::string&>());
    Workspace* workspace = from ? workspace_of(*from) : nullptr;
    if (!workspace || !to || *from == *to) continue;
    RelPath place = *workspace->path_in(*from);
    if (!workspace->tree().find(place)) continue;  // an editor's own file that is not saved yet
    auto goal = workspace->path_in(*to);
    if (!goal || workspace_of(*to) != workspace) {
      Refusal refusal{
          fmt::format("{} would leave the tree at {}", report::printable(place.str()), workspace->root()),
          ""};
      tell_refusal(refusal);
      return refusal.line;
    }
    moves[workspace].push_back({place, *goal});
  }
  if (moves.empty()) return nullptr;
  if (moves.size() > 1) {
    Refusal refusal{"files of two trees are moved at once; move those of one, then those of the other", ""};
    tell_refusal(refusal);
    return refusal.line;
  }
  Workspace& workspace = *moves.begin()->first;
  workspace.look_for_changes(true);  // not every editor tells of what others write
  bool is_long = workspace.tree().files().size() > kMany;
  std::string token = "planning " + id.dump();
  if (is_long) begin_progress(token, "Planning the move");
  auto planned = plan_rename(asked(workspace), moves.begin()->second, [&] { return in_.is_cancelled(id); });
  if (is_long) end_progress(token);
  if (in_.is_cancelled(id)) return nullptr;
  if (const auto* refusal = std::get_if<Refusal>(&planned)) {
    tell_refusal(*refusal);
    return refusal->line;
  }
  PlannedRename& rename = std::get<PlannedRename>(planned);
  std::erase_if(awaited_, [](const Awaited& one) { return !one.is_done; });
  awaited_.push_back({&workspace, std::move(rename.record), false});
  return std::move(rename.edit);
}

void Server::did_rename(const json& params) {
  std::map<Workspace*, std::set<RelPath>> changed;
  for (const json& file : params.at("files")) {
    auto from = path_of(file.at("oldUri").get_ref<const std::string&>());
    auto to = path_of(file.at("newUri").get_ref<const std::string&>());
    if (!from || !to) continue;
    for (const std::string& path : {*from, *to}) {
      if (Workspace* workspace = workspace_of(path)) changed[workspace].insert(*workspace->path_in(path));
    }
  }
  for (const auto& [workspace, files] : changed) {
    workspace->changed_on_disk(files);
    const TreeReader& tree = workspace->tree();
    auto is_there = [&tree, &named = files](const Move& move) {
      return tree.find(move.to) || named.contains(move.to);
    };
    for (Awaited& one : awaited_) {
      const std::vector<Move>& asked = one.move.requested;
      bool is_it = one.workspace == workspace && std::all_of(asked.begin(), asked.end(), is_there);
      one.is_done = one.is_done || is_it;
    }
    look_for_moves(*workspace);  // while it is known which were asked for
  }
  record_what_is_saved();
}

// The record of a move holds what the disk does, so it waits until all edited files are saved.
void Server::record_what_is_saved() {
  for (auto at = awaited_.begin(); at != awaited_.end();) {
    if (!at->is_done) {
      ++at;
      continue;
    }
    Workspace& workspace = *at->workspace;
    DiskFileSystem disk(writable_folders(workspace.root()));
    if (!not_as_moved(disk, workspace.root(), at->move).empty()) {
      ++at;
      continue;
    }
    auto stored = record_move(disk, workspace.place(), at->move);
    if (!stored)
      show(kShowWarning, "This move could not be recorded for undo: " + report::error_text(stored.error()));
    at = awaited_.erase(at);
  }
}

bool Server::apply(Workspace& workspace, std::variant<PlannedRename, Refusal> planned,
                   const std::string& label) {
  if (const auto* refusal = std::get_if<Refusal>(&planned)) {
    tell_refusal(*refusal);
    return false;
  }
  PlannedRename& rename = std::get<PlannedRename>(planned);
  if (rename.edit.is_null()) {
    show(kShowInformation, "There is nothing to edit.");
    return true;
  }
  if (!client_.can_apply) {
    show(kShowError, "This editor takes no edits that it has not asked for.");
    return false;
  }
  awaited_.push_back({&workspace, std::move(rename.record), true});
  out_.ask("workspace/applyEdit", {{"label", label}, {"edit", std::move(rename.edit)}});
  show(kShowInformation, fmt::format("{} in {}.", report::count(rename.edits, "edit", "edits"),
                                     report::count(rename.files, "file", "files")));
  return true;
}

void Server::catch_up(Workspace& workspace, const std::vector<Move>& moves) {
  workspace.look_for_changes(true);
  // Some may have been moved on, or back, meanwhile.
  std::vector<Move> still;
  for (const Move& move : moves) {
    if (!workspace.tree().find(move.from) && workspace.tree().is_file(move.to)) still.push_back(move);
  }
  if (still.empty()) return show(kShowInformation, "The files are where they were.");
  apply(workspace, plan_catch_up(asked(workspace), still), "Mend what names the old places");
}

}  // namespace yc::serve
