#include "serve/channel.h"

#include "serve/framing.h"

namespace yc::serve {

void Outbox::send(const json& message) {
  // Names of files need not be UTF-8.
  write_(framed(message.dump(-1, ' ', false, json::error_handler_t::replace)));
}

void Outbox::answer(const json& id, json result) {
  send({{"jsonrpc", "2.0"}, {"id", id}, {"result", std::move(result)}});
}

void Outbox::refuse(const json& id, ErrorCode code, const std::string& message) {
  send({{"jsonrpc", "2.0"}, {"id", id}, {"error", {{"code", static_cast<int>(code)}, {"message", message}}}});
}

void Outbox::notify(const char* method, json params) {
  send({{"jsonrpc", "2.0"}, {"method", method}, {"params", std::move(params)}});
}

void Outbox::ask(const char* method, json params, Answered answered) {
  int id = ++asked_;
  open_.emplace(id, std::move(answered));
  send({{"jsonrpc", "2.0"}, {"id", id}, {"method", method}, {"params", std::move(params)}});
}

void Outbox::take_answer(const json& message) {
  const json& id = message.at("id");
  auto at = id.is_number_integer() ? open_.find(id.get<int>()) : open_.end();
  if (at == open_.end()) return;
  Answered answered = std::move(at->second);
  open_.erase(at);
  if (answered) answered(message.value("result", json()));
}

}  // namespace yc::serve
