// What an editor asks about one file, or has done.
#include <algorithm>

#include "report/text.h"
#include "serve/commands.h"
#include "serve/completion.h"
#include "serve/findings.h"
#include "serve/reading.h"
#include "serve/server.h"
#include "serve/uris.h"

namespace yc::serve {

// The deepest tree that a path lies in.
Workspace* Server::workspace_of(const std::string& path) {
  Workspace* out = nullptr;
  for (const auto& one : workspaces_) {
    bool is_deeper = one->path_in(path) && (!out || one->root().size() > out->root().size());
    if (is_deeper) out = one.get();
  }
  return out;
}

std::optional<Server::Subject> Server::subject_of(const json& uri) {
  auto path = path_of(uri.get_ref<const std::string&>());
  Workspace* workspace = path ? workspace_of(*path) : nullptr;
  if (!workspace) return std::nullopt;
  RelPath file = *workspace->path_in(*path);
  if (!workspace->tree().is_file(file)) return std::nullopt;
  return Subject{workspace, file};
}

json Server::answer(const std::string& method, const json& params) {
  using About = json (*)(const Asked&, const RelPath&, const json&);
  static const std::map<std::string, About> at_place = {{"textDocument/definition", &definition},
                                                        {"textDocument/references", &references},
                                                        {"textDocument/hover", &hover},
                                                        {"textDocument/completion", &completion}};
  if (method == "workspace/executeCommand") return run_command(params);
  auto known = at_place.find(method);
  bool is_links = method == "textDocument/documentLink", is_actions = method == "textDocument/codeAction";
  if (known == at_place.end() && !is_links && !is_actions) return json(json::value_t::discarded);
  auto subject = subject_of(params.at("textDocument").at("uri"));
  if (!subject) return nullptr;
  Asked about = asked(*subject->workspace);
  if (is_links) return document_links(about, subject->file);
  if (is_actions)
    return code_actions(about, findings_of(*subject->workspace), subject->file, params.at("range"));
  return known->second(about, subject->file, params.at("position"));
}

json Server::run_command(const json& params) {
  const std::string& command = params.at("command").get_ref<const std::string&>();
  const json arguments = params.value("arguments", json::array());
  auto subject_path = path_of(arguments.at(0).get_ref<const std::string&>());
  Workspace* workspace = subject_path ? workspace_of(*subject_path) : nullptr;
  if (!workspace) return nullptr;
  if (command == kCatchUpCommand) {
    auto at = std::find_if(offered_.begin(), offered_.end(),
                           [&](const auto& one) { return one.first == workspace; });
    if (at == offered_.end()) {
      show(3, "No file was moved without its references.");
      return nullptr;
    }
    std::vector<Move> moves = std::move(at->second);
    offered_.erase(at);
    catch_up(*workspace, moves);
    return nullptr;
  }
  workspace->look_for_changes(true);  // edits must fit what files hold now
  Asked about = asked(*workspace);
  Result<Plan> plan = Error{Failure::usage, command, "is no command of this program", ""};
  if (command == kMendCommand) {
    auto listed = arguments.size() > 2 ? subject_of(arguments.at(2)) : std::nullopt;
    plan = plan_to_mend(*workspace, arguments.at(1).get<std::string>(),
                        listed ? std::optional(listed->file) : std::nullopt);
  }
  if (command == kRespellCommand || command == kLeadCommand) {
    auto subject = subject_of(arguments.at(0));
    if (!subject) return nullptr;
    json position = {{"line", arguments.at(1)}, {"character", arguments.at(2)}};
    plan = command == kLeadCommand
               ? plan_to_lead(about, findings_of(*workspace), subject->file, position)
               : plan_to_respell(about, subject->file, position, arguments.at(3) == "alias");
  }
  std::variant<PlannedRename, Refusal> planned = Refusal{};
  if (plan)
    planned = planned_edits(about, *plan, command);
  else
    planned = Refusal{report::error_text(plan.error()), ""};
  apply(*workspace, std::move(planned), command == kRespellCommand ? "Spell otherwise" : "Mend");
  return nullptr;
}

}  // namespace yc::serve
