#include "serve/server.h"

#include <fmt/format.h>

#include <algorithm>

#include "report/text.h"
#include "serve/uris.h"

namespace yc::serve {

namespace {

// After that long without a message the server does what nobody waits for; and if there is nothing to do, it
// looks whether files came or went now and then, as not every editor tells of that.
constexpr std::chrono::milliseconds kPause(200);
constexpr std::chrono::milliseconds kLongPause(2000);
constexpr int kShare = 50;  // of the time, at most one part in so many is spent on looking

}  // namespace

Server::Server(Environment environment, FrameReader::More read, Outbox::Write write)
    : environment_(std::move(environment)), out_(std::move(write)), in_(std::move(read)) {}

bool Server::run() {
  bool is_idle = false;
  std::chrono::milliseconds long_pause = kLongPause;
  while (!is_over_) {
    Message message;
    switch (in_.take(message, is_idle ? long_pause : kPause)) {
      case Inbox::Came::end:
        record_what_is_saved();
        return is_shut_down_;
      case Inbox::Came::nothing:
        if (is_idle) long_pause = std::max(kLongPause, look_for_changes() * kShare);
        is_idle = !work_on_the_side();
        break;
      case Inbox::Came::message:
        is_idle = false;
        take(message);
        break;
    }
  }
  return is_shut_down_;
}

// Gives how long that took.
std::chrono::milliseconds Server::look_for_changes() {
  auto start = std::chrono::steady_clock::now();
  for (const auto& workspace : workspaces_) workspace->look_for_changes();
  return std::chrono::duration_cast<std::chrono::milliseconds>(std::chrono::steady_clock::now() - start);
}

// What is garbled is answered, and nothing else comes of it.
void Server::take(const Message& message) {
  const json& said = message.json;
  if (!message.problem.empty()) return out_.refuse(nullptr, ErrorCode::parse_error, message.problem);
  bool has_method = said.is_object() && said.contains("method") && said.at("method").is_string();
  json id = said.is_object() ? said.value("id", json()) : json();
  bool has_id = id.is_string() || id.is_number_integer();
  if (!has_method && has_id && (said.contains("result") || said.contains("error")))
    return out_.take_answer(said);
  if (!has_method) return out_.refuse(has_id ? id : json(), ErrorCode::invalid_request, "is no message");
  static const json none = json::object();
  auto params = said.find("params");
  const std::string& method = said.at("method").get_ref<const std::string&>();
  const json& given = params == said.end() ? none : *params;
  // How the library tells that what was said has another form than the protocol wants.
  try {
    if (has_id)
      take_request(id, method, given);
    else
      take_notification(method, given);
  } catch (const json::exception& error) {
    if (has_id) out_.refuse(id, ErrorCode::invalid_params, method + ": " + error.what());
  }
  if (has_id) in_.forget(id);
}

void Server::take_request(const json& id, const std::string& method, const json& params) {
  if (in_.is_cancelled(id)) return out_.refuse(id, ErrorCode::request_cancelled, "was cancelled");
  if (method == "initialize") {
    if (is_initialized_) return out_.refuse(id, ErrorCode::invalid_request, "is initialized already");
    return out_.answer(id, initialize(params));
  }
  if (!is_initialized_) return out_.refuse(id, ErrorCode::not_initialized, "is not initialized yet");
  if (is_shut_down_) return out_.refuse(id, ErrorCode::invalid_request, "is shut down");
  if (method == "shutdown") {
    shut_down();
    return out_.answer(id, nullptr);
  }
  if (method == "workspace/willRenameFiles") {
    json edit = will_rename(id, params);
    if (in_.is_cancelled(id)) return out_.refuse(id, ErrorCode::request_cancelled, "was cancelled");
    if (edit.is_string()) return out_.refuse(id, ErrorCode::request_failed, edit.get<std::string>());
    return out_.answer(id, std::move(edit));
  }
  json found = answer(method, params);
  if (found.is_discarded())
    return out_.refuse(id, ErrorCode::method_not_found, method + " is not known here");
  out_.answer(id, std::move(found));
}

void Server::take_notification(const std::string& method, const json& params) {
  if (method == "exit") {
    record_what_is_saved();
    is_over_ = true;
    return;
  }
  if (!is_initialized_ || is_shut_down_) return;
  if (method == "initialized") initialized();
  if (method == "textDocument/didOpen") open_document(params);
  if (method == "textDocument/didChange") change_document(params);
  if (method == "textDocument/didClose") close_document(params);
  if (method == "textDocument/didSave") {
    if (auto path = path_of(params.at("textDocument").at("uri").get_ref<const std::string&>())) {
      if (Workspace* workspace = workspace_of(*path))
        workspace->changed_on_disk({*workspace->path_in(*path)});
      lay_text(*path);
    }
    record_what_is_saved();
  }
  if (method == "workspace/didRenameFiles") did_rename(params);
  if (method == "workspace/didChangeWatchedFiles") note_changes(params);
  if (method == "workspace/didChangeWorkspaceFolders") change_folders(params);
}

json Server::initialize(const json& params) {
  client_ = client_of(params);
  is_initialized_ = true;
  std::vector<std::string> folders = client_.folders;
  if (folders.empty()) folders.push_back(environment_.fallback);
  for (const std::string& folder : folders) add_folder(folder);
  return {{"capabilities", capabilities_for(client_)},
          {"serverInfo", {{"name", "yellow-compass"}, {"version", environment_.version}}}};
}

// Reading takes a while on a large tree: it is done once nothing else is asked.
void Server::initialized() {
  if (!client_.can_watch) return;
  out_.ask(
      "client/registerCapability",
      {{"registrations",
        json::array({{{"id", "watched-files"},
                      {"method", "workspace/didChangeWatchedFiles"},
                      {"registerOptions", {{"watchers", json::array({{{"globPattern", "**/*"}}})}}}}})}});
}

void Server::add_folder(const std::string& folder) {
  auto opened = Workspace::open(environment_.open, folder);
  if (!opened) {
    show(1, report::error_text(opened.error()));
    return;
  }
  bool is_known = std::any_of(workspaces_.begin(), workspaces_.end(),
                              [&](const auto& known) { return known->root() == (*opened)->root(); });
  if (is_known) return;
  workspaces_.push_back(std::move(*opened));
  for (const auto& [path, document] : documents_.all()) lay_text(path);
}

void Server::change_folders(const json& params) {
  const json& event = params.at("event");
  for (const json& folder : event.at("removed")) {
    auto path = path_of(folder.at("uri").get_ref<const std::string&>());
    auto at = std::find_if(workspaces_.begin(), workspaces_.end(),
                           [&](const auto& known) { return known->root() == path; });
    if (at == workspaces_.end()) continue;
    Workspace* gone = at->get();
    for (const std::string& uri : published_[gone].uris)
      out_.notify("textDocument/publishDiagnostics", {{"uri", uri}, {"diagnostics", json::array()}});
    published_.erase(gone);
    std::erase_if(awaited_, [&](const Awaited& one) { return one.workspace == gone; });
    std::erase_if(offered_, [&](const auto& one) { return one.first == gone; });
    workspaces_.erase(at);
  }
  for (const json& folder : event.at("added")) {
    if (auto path = path_of(folder.at("uri").get_ref<const std::string&>())) add_folder(*path);
  }
}

void Server::shut_down() {
  record_what_is_saved();
  is_shut_down_ = true;
}

}  // namespace yc::serve
