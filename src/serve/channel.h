// The two directions of a connection, and the messages that go out on it (JSON-RPC 2.0).
#pragma once

#include <functional>
#include <map>
#include <nlohmann/json.hpp>
#include <string>

namespace yc::serve {

using json = nlohmann::json;

// Codes of errors (Language Server Protocol 3.17, "Response Message").
enum class ErrorCode : int {
  parse_error = -32700,
  invalid_request = -32600,
  method_not_found = -32601,
  invalid_params = -32602,
  internal_error = -32603,
  not_initialized = -32002,
  request_failed = -32803,
  request_cancelled = -32800,
};

class Outbox {
 public:
  using Write = std::function<void(const std::string& bytes)>;
  explicit Outbox(Write write) : write_(std::move(write)) {}

  void answer(const json& id, json result);
  void refuse(const json& id, ErrorCode code, const std::string& message);
  void notify(const char* method, json params);
  // Asks the editor something. `answered` is called with its result, or with null if it refuses.
  using Answered = std::function<void(const json& result)>;
  void ask(const char* method, json params, Answered answered = {});
  void take_answer(const json& message);

 private:
  void send(const json& message);

  Write write_;
  int asked_ = 0;
  std::map<int, Answered> open_;
};

}  // namespace yc::serve
