#include "serve/client.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "serve/commands.h"
#include "serve/uris.h"

namespace yc::serve {

namespace {

using json = nlohmann::json;
using pointer = json::json_pointer;

// Null where there is nothing.
json at(const json& params, const char* where) {
  pointer path(where);
  return params.contains(path) ? params.at(path) : json();
}

bool holds(const json& list, const char* word) {
  return list.is_array() && std::find(list.begin(), list.end(), word) != list.end();
}

bool is_on(const json& params, const char* where) {
  return at(params, where) == true;
}

void add_folder(const json& uri, std::vector<std::string>& into) {
  auto path = uri.is_string() ? path_of(uri.get_ref<const std::string&>()) : std::nullopt;
  if (path) into.push_back(*path);
}

}  // namespace

Client client_of(const json& params) {
  Client out;
  json name = at(params, "/clientInfo/name"), version = at(params, "/clientInfo/version");
  if (name.is_string()) out.name = name.get<std::string>();
  if (version.is_string()) out.name += " " + version.get<std::string>();
  // The bytes of a file are counted in UTF-8 without being looked at.
  if (holds(at(params, "/capabilities/general/positionEncodings"), "utf-8")) out.encoding = Encoding::utf8;
  out.takes_versions = is_on(params, "/capabilities/workspace/workspaceEdit/documentChanges");
  out.takes_annotations =
      out.takes_versions &&
      at(params, "/capabilities/workspace/workspaceEdit/changeAnnotationSupport").is_object();
  json operations = at(params, "/capabilities/workspace/workspaceEdit/resourceOperations");
  out.can_rename = out.takes_versions && holds(operations, "rename");
  out.can_create = out.takes_versions && holds(operations, "create");
  out.can_remove = out.takes_versions && holds(operations, "delete");
  out.can_apply = is_on(params, "/capabilities/workspace/applyEdit");
  out.can_show_document = is_on(params, "/capabilities/window/showDocument/support");
  out.can_show_progress = is_on(params, "/capabilities/window/workDoneProgress");
  out.can_watch = is_on(params, "/capabilities/workspace/didChangeWatchedFiles/dynamicRegistration");
  out.takes_markdown = holds(at(params, "/capabilities/textDocument/hover/contentFormat"), "markdown");
  out.takes_code_actions =
      at(params, "/capabilities/textDocument/codeAction/codeActionLiteralSupport").is_object();
  json folders = at(params, "/workspaceFolders");
  for (std::size_t i = 0; folders.is_array() && i < folders.size(); ++i)
    add_folder(at(folders[i], "/uri"), out.folders);
  if (out.folders.empty()) add_folder(at(params, "/rootUri"), out.folders);
  json root = at(params, "/rootPath");
  if (out.folders.empty() && root.is_string()) add_folder("file://" + root.get<std::string>(), out.folders);
  return out;
}

json capabilities_for(const Client& client) {
  json any_file = {{"filters", {{{"scheme", "file"}, {"pattern", {{"glob", "**"}}}}}}};
  return {{"positionEncoding", client.encoding == Encoding::utf8 ? "utf-8" : "utf-16"},
          {"textDocumentSync",
           {{"openClose", true}, {"change", 2}, {"save", {{"includeText", false}}}}},  // 2: changes alone
          {"documentLinkProvider", {{"resolveProvider", false}}},
          {"definitionProvider", true},
          {"referencesProvider", true},
          {"hoverProvider", true},
          {"completionProvider", {{"triggerCharacters", {"/", "\"", "'", "<", "."}}}},
          {"codeActionProvider", {{"codeActionKinds", {"quickfix", "refactor.rewrite"}}}},
          {"executeCommandProvider",
           {{"commands", {kMendCommand, kLeadCommand, kRespellCommand, kCatchUpCommand}}}},
          {"workspace",
           {{"workspaceFolders", {{"supported", true}, {"changeNotifications", true}}},
            {"fileOperations", {{"willRename", any_file}, {"didRename", any_file}}}}}};
}

}  // namespace yc::serve
