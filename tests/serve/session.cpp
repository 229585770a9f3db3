#include "session.h"

#include <filesystem>
#include <fstream>

#include "formats/kept_parts.h"
#include "serve/framing.h"
#include "serve/places.h"
#include "serve/uris.h"
#include "support/own_state.h"

namespace yc::test {

namespace fs = std::filesystem;

struct EditorSession::Stream {
  std::mutex mutex;
  std::condition_variable changed;
  std::string bytes;
  bool is_closed = false;
};

json EditorSession::everything() {
  return {
      {"general", {{"positionEncodings", {"utf-16"}}}},
      {"workspace",
       {{"applyEdit", true},
        {"workspaceEdit",
         {{"documentChanges", true},
          {"resourceOperations", {"create", "rename", "delete"}},
          {"changeAnnotationSupport", {{"groupsOnLabel", true}}}}},
        {"didChangeWatchedFiles", {{"dynamicRegistration", true}}}}},
      {"window", {{"workDoneProgress", true}, {"showDocument", {{"support", true}}}}},
      {"textDocument",
       {{"hover", {{"contentFormat", {"markdown", "plaintext"}}}},
        {"codeAction", {{"codeActionLiteralSupport", {{"codeActionKind", {{"valueSet", {"quickfix"}}}}}}}}}}};
}

EditorSession::EditorSession(const std::vector<std::pair<std::string, std::string>>& files, json capabilities)
    : root_(tree.path()), to_server_(std::make_shared<Stream>()) {
  for (const auto& [path, text] : files) tree.write(path, text);
  begin(capabilities);
}

EditorSession::EditorSession(const std::string& folder)
    : root_(folder), to_server_(std::make_shared<Stream>()) {
  begin(everything());
}

void EditorSession::begin(const json& capabilities) {
  std::string state = own_state();
  serve::Environment environment;
  environment.version = "test";
  environment.fallback = root_;
  environment.open = [state](const std::string& folder) -> Result<serve::OpenedTree> {
    auto disk = DiskTree::scan(folder, {});
    if (!disk) return disk.error();
    return serve::OpenedTree{folder,
                             {},
                             std::move(*disk),
                             std::make_shared<KeptParts>(),
                             {},
                             {folder, state_folder(folder), state},
                             nullptr};
  };
  environment.keep_text = [this](const std::string& text) {
    std::ofstream(root_ + "-why.txt") << text;
    return root_ + "-why.txt";
  };
  auto read = [stream = to_server_](char* into, std::size_t most) {
    std::unique_lock lock(stream->mutex);
    stream->changed.wait(lock, [&] { return !stream->bytes.empty() || stream->is_closed; });
    std::size_t size = std::min(most, stream->bytes.size());
    stream->bytes.copy(into, size);
    stream->bytes.erase(0, size);
    return size;
  };
  auto write = [this](const std::string& bytes) {
    std::lock_guard lock(mutex_);
    out_ += bytes;
    read_messages();
    came_.notify_all();
  };
  server_ = std::thread(
      [this, environment, read, write] { result_ = serve::Server(environment, read, write).run(); });
  ask("initialize", {{"processId", nullptr},
                     {"clientInfo", {{"name", "test"}}},
                     {"rootUri", serve::uri_of(root_)},
                     {"capabilities", capabilities}});
  tell("initialized", json::object());
}

EditorSession::~EditorSession() {
  if (!is_ended_) end();
  std::error_code ignored;
  fs::remove(root_ + "-why.txt", ignored);
}

std::string EditorSession::uri(const std::string& path) const {
  return serve::uri_of(root_ + "/" + path);
}

// Called with the mutex held.
void EditorSession::read_messages() {
  while (true) {
    std::size_t head = out_.find("\r\n\r\n");
    if (head == std::string::npos) return;
    std::size_t size = std::stoul(out_.substr(out_.find(':') + 1));
    if (out_.size() < head + 4 + size) return;
    messages_.push_back(json::parse(out_.substr(head + 4, size)));
    out_.erase(0, head + 4 + size);
  }
}

void EditorSession::send(const std::string& bytes) {
  std::lock_guard lock(to_server_->mutex);
  to_server_->bytes += bytes;
  to_server_->changed.notify_all();
}

void EditorSession::tell(const std::string& method, json params) {
  send(serve::framed(json{{"jsonrpc", "2.0"}, {"method", method}, {"params", std::move(params)}}.dump()));
}

json EditorSession::ask(const std::string& method, json params) {
  int id = ++asked_;
  send(serve::framed(
      json{{"jsonrpc", "2.0"}, {"id", id}, {"method", method}, {"params", std::move(params)}}.dump()));
  std::unique_lock lock(mutex_);
  json out;
  came_.wait_for(lock, std::chrono::seconds(60), [&] {
    for (auto at = messages_.begin(); at != messages_.end(); ++at) {
      if (at->contains("method") || at->value("id", json()) != id) continue;
      out = std::move(*at);
      messages_.erase(at);
      return true;
    }
    return false;
  });
  return out;
}

json EditorSession::wait_for(const std::string& method, int seconds) {
  std::unique_lock lock(mutex_);
  json out;
  came_.wait_for(lock, std::chrono::seconds(seconds), [&] {
    for (auto at = messages_.begin(); at != messages_.end(); ++at) {
      if (at->value("method", "") != method) continue;
      out = std::move(*at);
      messages_.erase(at);
      return true;
    }
    return false;
  });
  return out;
}

void EditorSession::answer(const json& question, json result) {
  send(serve::framed(
      json{{"jsonrpc", "2.0"}, {"id", question.at("id")}, {"result", std::move(result)}}.dump()));
}

bool EditorSession::end() {
  ask("shutdown", nullptr);
  tell("exit", nullptr);
  {
    std::lock_guard lock(to_server_->mutex);
    to_server_->is_closed = true;
    to_server_->changed.notify_all();
  }
  server_.join();
  is_ended_ = true;
  return result_;
}

void EditorSession::close(const std::string& path) {
  opened.erase(path);
  tell("textDocument/didClose", {{"textDocument", {{"uri", uri(path)}}}});
}

void EditorSession::open(const std::string& path, const std::string& text) {
  opened[path] = text;
  tell("textDocument/didOpen",
       {{"textDocument", {{"uri", uri(path)}, {"languageId", "x"}, {"version", 1}, {"text", text}}}});
}

json EditorSession::rename(const std::string& from, const std::string& to) {
  return ask("workspace/willRenameFiles",
             {{"files", json::array({{{"oldUri", uri(from)}, {"newUri", uri(to)}}})}});
}

void EditorSession::apply(const json& edit) {
  for (const json& step : edit.at("documentChanges")) {
    if (step.contains("kind")) {
      fs::rename(*serve::path_of(step.at("oldUri").get<std::string>()),
                 *serve::path_of(step.at("newUri").get<std::string>()));
      continue;
    }
    std::string path = *serve::path_of(step.at("textDocument").at("uri").get<std::string>());
    std::ifstream file(path, std::ios::binary);
    std::string text((std::istreambuf_iterator<char>(file)), {});
    serve::TextPlaces places(text, serve::Encoding::utf16);
    auto at = [&](const json& place) {
      return places.offset_of(
          text, {place.at("line").get<std::uint32_t>(), place.at("character").get<std::uint32_t>()});
    };
    std::string out;
    std::size_t done = 0;
    for (const json& one : step.at("edits")) {
      out += text.substr(done, at(one.at("range").at("start")) - done) + one.at("newText").get<std::string>();
      done = at(one.at("range").at("end"));
    }
    std::ofstream(path, std::ios::binary) << out + text.substr(done);
  }
}

void EditorSession::move_on_disk(const std::string& from, const std::string& to) {
  fs::create_directories(fs::path(root_ + "/" + to).parent_path());
  fs::rename(root_ + "/" + from, root_ + "/" + to);
}

}  // namespace yc::test
