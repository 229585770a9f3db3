// What an editor has open, what changed on the disk, and what is told of it without being asked.
#include <fmt/format.h>

#include <algorithm>

#include "report/text.h"
#include "serve/findings.h"
#include "serve/server.h"
#include "serve/uris.h"

namespace yc::serve {

namespace {

// What an editor asked about so lately, it does itself.
constexpr std::chrono::seconds kExpected(10);

}  // namespace

void Server::open_document(const json& params) {
  const json& given = params.at("textDocument");
  std::string uri = given.at("uri").get<std::string>();
  auto path = path_of(uri);
  if (!path) return;
  documents_.open(*path,
                  {uri, given.value("version", std::int64_t{0}),
                   std::make_shared<const std::string>(given.at("text").get_ref<const std::string&>())});
  lay_text(*path);
  // It came since the disk was looked at, and not every editor tells of that.
  Workspace* workspace = workspace_of(*path);
  bool is_new = workspace && !workspace->tree().find(*workspace->path_in(*path));
  if (is_new) workspace->changed_on_disk({*workspace->path_in(*path)});
}

void Server::change_document(const json& params) {
  const json& given = params.at("textDocument");
  auto path = path_of(given.at("uri").get_ref<const std::string&>());
  if (!path) return;
  json version = given.value("version", json());
  Status ok = documents_.change(*path, version.is_number_integer() ? version.get<std::int64_t>() : 0,
                                params.at("contentChanges"), client_.encoding);
  if (ok) lay_text(*path);
}

void Server::close_document(const json& params) {
  auto path = path_of(params.at("textDocument").at("uri").get_ref<const std::string&>());
  if (!path) return;
  documents_.close(*path);
  if (Workspace* workspace = workspace_of(*path)) workspace->set_text(*workspace->path_in(*path), nullptr);
}

// Has a tree see a file as the editor holds it.
void Server::lay_text(const std::string& path) {
  const Document* document = documents_.find(path);
  Workspace* workspace = document ? workspace_of(path) : nullptr;
  if (!workspace) return;
  RelPath file = *workspace->path_in(path);
  workspace->set_text(file, document->text);
}

void Server::note_changes(const json& params) {
  std::map<Workspace*, std::set<RelPath>> changed;
  for (const json& one : params.at("changes")) {
    auto path = path_of(one.at("uri").get_ref<const std::string&>());
    Workspace* workspace = path ? workspace_of(*path) : nullptr;
    if (workspace) changed[workspace].insert(*workspace->path_in(*path));
  }
  for (const auto& [workspace, files] : changed) workspace->changed_on_disk(files);
  record_what_is_saved();
}

// A move that nobody asked about, as by a terminal: it is offered to mend what it left behind.
void Server::look_for_moves(Workspace& workspace) {
  std::vector<Move> seen = workspace.take_moves_seen();
  auto now = std::chrono::steady_clock::now();
  std::erase_if(seen, [&](const Move& move) {
    return std::any_of(awaited_.begin(), awaited_.end(), [&](const Awaited& one) {
      const std::vector<Move>& files = one.move.files;
      bool is_expected = one.workspace == &workspace && (one.is_done || now - one.since < kExpected);
      return is_expected && std::find(files.begin(), files.end(), move) != files.end();
    });
  });
  if (seen.empty()) return;
  auto known = std::find_if(offered_.begin(), offered_.end(),
                            [&](const auto& one) { return one.first == &workspace; });
  if (known == offered_.end()) known = offered_.insert(offered_.end(), {&workspace, {}});
  known->second.insert(known->second.end(), seen.begin(), seen.end());
  const Move& first = known->second.front();
  std::string what =
      fmt::format("{} went to {}", report::printable(first.from.str()), report::printable(first.to.str()));
  if (known->second.size() > 1)
    what += fmt::format(", and {}",
                        report::count(known->second.size() - 1, "more file moved", "more files moved"));
  out_.ask("window/showMessageRequest",
           {{"type", 3},
            {"message", what + ". Mend what names the old places?"},
            {"actions", json::array({{{"title", "Mend"}}, {{"title", "Leave it"}}})}},
           [this, workspace = &workspace](const json& chosen) {
             auto at = std::find_if(offered_.begin(), offered_.end(),
                                    [&](const auto& one) { return one.first == workspace; });
             if (at == offered_.end()) return;
             std::vector<Move> moves = std::move(at->second);
             offered_.erase(at);
             if (chosen.is_object() && chosen.value("title", "") == "Mend") catch_up(*workspace, moves);
           });
}

const std::vector<Finding>& Server::findings_of(Workspace& workspace) {
  Published& known = published_[&workspace];
  if (!known.is_any || known.age != workspace.age()) publish(workspace);
  return known.findings;
}

void Server::publish(Workspace& workspace) {
  Published& known = published_[&workspace];
  known.findings = find(workspace);
  known.is_any = true;
  known.age = workspace.age();
  Asked about = asked(workspace);
  std::set<std::string> uris;
  for (auto& [file, list] : diagnostics(about, known.findings)) {
    json params = {{"uri", about.uri(file)}, {"diagnostics", std::move(list)}};
    if (json version = about.version(file); !version.is_null()) params["version"] = version;
    uris.insert(about.uri(file));
    out_.notify("textDocument/publishDiagnostics", std::move(params));
  }
  for (const std::string& uri : known.uris) {
    if (!uris.contains(uri))
      out_.notify("textDocument/publishDiagnostics", {{"uri", uri}, {"diagnostics", json::array()}});
  }
  known.uris = std::move(uris);
}

void Server::begin_progress(const std::string& token, const char* title) {
  if (!client_.can_show_progress) return;
  out_.ask("window/workDoneProgress/create", {{"token", token}});
  out_.notify("$/progress", {{"token", token}, {"value", {{"kind", "begin"}, {"title", title}}}});
}

void Server::end_progress(const std::string& token) {
  if (client_.can_show_progress) out_.notify("$/progress", {{"token", token}, {"value", {{"kind", "end"}}}});
}

// Whether something was done: then there may be more.
bool Server::work_on_the_side() {
  if (!is_initialized_ || is_shut_down_) return false;
  for (const auto& workspace : workspaces_) {
    const Published& known = published_[workspace.get()];
    if (known.is_any && known.age == workspace->age()) continue;
    bool is_told = !known.is_any;
    std::string token = "reading " + workspace->root();
    if (is_told) begin_progress(token, "Reading the tree");
    look_for_moves(*workspace);
    publish(*workspace);
    if (is_told) end_progress(token);
    record_what_is_saved();
    return true;
  }
  return false;
}

}  // namespace yc::serve
