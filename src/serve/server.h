// A server of the Language Server Protocol 3.17: one editor, the trees that it has open, one question at a
// time.
#pragma once

#include <chrono>
#include <map>
#include <memory>
#include <set>
#include <string>
#include <vector>

#include "inspect/inspect.h"
#include "serve/channel.h"
#include "serve/documents.h"
#include "serve/inbox.h"
#include "serve/renames.h"
#include "serve/workspace.h"

namespace yc::serve {

struct Environment {
  OpenTree open;
  std::string version;   // of the program
  std::string fallback;  // the folder to serve where the editor names none (absolute)
  // Keeps a text as a file that the editor can open; gives its absolute path, or nothing.
  std::function<std::string(const std::string& text)> keep_text;
};

class Server {
 public:
  Server(Environment environment, FrameReader::More read, Outbox::Write write);
  // Serves until the editor says "exit" or goes. True if it said "shutdown" before.
  bool run();

 private:
  // server.cpp: the life of a connection
  void take(const Message& message);
  void take_request(const json& id, const std::string& method, const json& params);
  void take_notification(const std::string& method, const json& params);
  json initialize(const json& params);
  void initialized();
  void change_folders(const json& params);
  void add_folder(const std::string& folder);
  void shut_down();
  std::chrono::milliseconds look_for_changes();
  Asked asked(Workspace& workspace) { return {workspace, documents_, client_}; }

  // questions.cpp: what is asked of one file
  json answer(const std::string& method, const json& params);
  struct Subject {
    Workspace* workspace = nullptr;
    RelPath file;
  };
  std::optional<Subject> subject_of(const json& uri);
  Workspace* workspace_of(const std::string& path);
  json run_command(const json& params);

  // synchronizing.cpp: what the editor has open, and what changed on the disk
  void open_document(const json& params);
  void change_document(const json& params);
  void close_document(const json& params);
  void lay_text(const std::string& path);
  void note_changes(const json& params);
  void look_for_moves(Workspace& workspace);
  void publish(Workspace& workspace);
  // For what takes a while, where the editor can show it; the token tells one from another.
  void begin_progress(const std::string& token, const char* title);
  void end_progress(const std::string& token);
  const std::vector<Finding>& findings_of(Workspace& workspace);  // as the tree is now
  bool work_on_the_side();

  // moving.cpp: files that are renamed
  struct Awaited {  // a move, or edits, that the editor carries out and saves
    Workspace* workspace = nullptr;
    MadeMove move;
    bool is_done = false;  // the editor said so, or there is nothing for it to say
    std::chrono::steady_clock::time_point since = std::chrono::steady_clock::now();
  };
  json will_rename(const json& id, const json& params);
  void did_rename(const json& params);
  void record_what_is_saved();
  void tell_refusal(const Refusal& refusal);
  void show(int type, const std::string& text);
  bool apply(Workspace& workspace, std::variant<PlannedRename, Refusal> planned, const std::string& label);
  void catch_up(Workspace& workspace, const std::vector<Move>& moves);

  Environment environment_;
  Outbox out_;
  Inbox in_;
  Client client_;
  Documents documents_;
  std::vector<std::unique_ptr<Workspace>> workspaces_;
  // Of each workspace, as last found.
  struct Published {
    std::size_t age = 0;
    bool is_any = false;
    std::vector<Finding> findings;
    std::set<std::string> uris;
  };
  std::map<Workspace*, Published> published_;
  std::vector<Awaited> awaited_;
  std::vector<std::pair<Workspace*, std::vector<Move>>> offered_;
  bool is_initialized_ = false, is_shut_down_ = false, is_over_ = false;
};

}  // namespace yc::serve
