// A server in this process and the editor that a test plays, over a temporary tree.
#pragma once

#include <condition_variable>
#include <map>
#include <memory>
#include <mutex>
#include <nlohmann/json.hpp>
#include <string>
#include <thread>
#include <vector>

#include "serve/server.h"
#include "support/scratch_folder.h"

namespace yc::test {

using json = nlohmann::json;

class EditorSession {
 public:
  // Files by their paths. The editor can do everything, but for what `capabilities` say otherwise.
  explicit EditorSession(const std::vector<std::pair<std::string, std::string>>& files,
                         json capabilities = everything());
  // A second editor over the tree of another one.
  explicit EditorSession(const std::string& folder);
  ~EditorSession();
  static json everything();

  std::string uri(const std::string& path) const;
  // Asks, and waits for the answer: the whole response.
  json ask(const std::string& method, json params);
  void tell(const std::string& method, json params);
  // Sends bytes as they are.
  void send(const std::string& bytes);
  // Waits for a notification or a question of the server with that method; null if none comes.
  json wait_for(const std::string& method, int seconds = 20);
  void answer(const json& question, json result);
  // Ends the server; gives whether it ended as it should.
  bool end();

  void open(const std::string& path, const std::string& text);
  void close(const std::string& path);
  json rename(const std::string& from, const std::string& to);  // asks only
  // Does an edit to the files on the disk, as an editor would that saves at once.
  void apply(const json& edit);
  void move_on_disk(const std::string& from, const std::string& to);

  ScratchFolder tree;
  std::map<std::string, std::string> opened;  // texts by paths, until they are closed

 private:
  struct Stream;
  void begin(const json& capabilities);
  void read_messages();

  std::string root_;
  std::shared_ptr<Stream> to_server_;
  std::thread server_;
  bool result_ = false, is_ended_ = false;
  int asked_ = 1000;
  std::mutex mutex_;
  std::condition_variable came_;
  std::string out_;             // bytes of the server that are no whole message yet
  std::vector<json> messages_;  // that nobody waited for yet
};

}  // namespace yc::test
