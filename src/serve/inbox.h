// What an editor says, taken in while the server is at work: so that a request can be cancelled that waits or
// is being answered.
#pragma once

#include <chrono>
#include <condition_variable>
#include <deque>
#include <memory>
#include <mutex>
#include <nlohmann/json.hpp>
#include <optional>
#include <set>
#include <string>

#include "serve/framing.h"

namespace yc::serve {

struct Message {
  nlohmann::json json;
  std::string problem;   // why there is none
  std::size_t size = 0;  // bytes that it came in
};

class Inbox {
 public:
  // Reads on a thread of its own, to the end of the stream.
  explicit Inbox(FrameReader::More more);
  ~Inbox();
  Inbox(const Inbox&) = delete;
  Inbox& operator=(const Inbox&) = delete;

  enum class Came : std::uint8_t { message, nothing, end };
  // Waits for the next message, at most that long.
  Came take(Message& into, std::chrono::milliseconds at_most);
  bool is_cancelled(const nlohmann::json& id);
  void forget(const nlohmann::json& id);  // once it is answered
  bool is_waiting();                      // whether something is there to be taken

 private:
  // Outlives the inbox where the thread still waits for a stream that nobody ends.
  struct State {
    std::mutex mutex;
    std::condition_variable changed;
    std::deque<Message> waiting;
    std::size_t held = 0;  // bytes in `waiting`
    std::set<std::string> cancelled;
    bool is_at_end = false, is_closed = false;
    void run(FrameReader frames);
    bool take_in(Frame frame);
  };
  std::shared_ptr<State> state_ = std::make_shared<State>();
};

}  // namespace yc::serve
