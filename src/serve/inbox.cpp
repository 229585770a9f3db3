#include "serve/inbox.h"

#include <thread>

namespace yc::serve {

namespace {

// More is not taken in before the server has come to it.
constexpr std::size_t kMostHeld = 1'000'000;
// Cancelled requests that never come are forgotten at last.
constexpr std::size_t kMostCancelled = 10'000;

}  // namespace

Inbox::Inbox(FrameReader::More more) {
  std::thread([state = state_, frames = FrameReader(std::move(more))]() mutable {
    state->run(std::move(frames));
  }).detach();
}

Inbox::~Inbox() {
  {
    std::lock_guard lock(state_->mutex);
    state_->is_closed = true;
  }
  state_->changed.notify_all();
}

void Inbox::State::run(FrameReader frames) {
  while (auto frame = frames.next()) {
    if (!take_in(std::move(*frame))) return;
  }
  std::lock_guard lock(mutex);
  is_at_end = true;
  changed.notify_all();
}

// False once nobody listens any more.
bool Inbox::State::take_in(Frame frame) {
  Message message;
  message.size = frame.body.size();
  message.problem = std::move(frame.problem);
  if (message.problem.empty()) {
    message.json = nlohmann::json::parse(frame.body, nullptr, false);
    frame = {};  // a large one is held once
    if (message.json.is_discarded()) message.problem = "a message is no JSON";
  }
  std::unique_lock lock(mutex);
  const nlohmann::json& value = message.json;
  if (value.is_object() && value.value("method", nlohmann::json()) == "$/cancelRequest") {
    auto params = value.find("params");
    bool is_whole = params != value.end() && params->is_object() && params->contains("id");
    if (is_whole && cancelled.size() < kMostCancelled) cancelled.insert(params->at("id").dump());
    return !is_closed;
  }
  changed.wait(lock, [&] { return held < kMostHeld || is_closed; });
  held += message.size;
  waiting.push_back(std::move(message));
  changed.notify_all();
  return !is_closed;
}

Inbox::Came Inbox::take(Message& into, std::chrono::milliseconds at_most) {
  std::unique_lock lock(state_->mutex);
  State& state = *state_;
  state.changed.wait_for(lock, at_most, [&] { return !state.waiting.empty() || state.is_at_end; });
  if (state.waiting.empty()) return state.is_at_end ? Came::end : Came::nothing;
  into = std::move(state.waiting.front());
  state.waiting.pop_front();
  state.held -= into.size;
  state.changed.notify_all();
  return Came::message;
}

bool Inbox::is_cancelled(const nlohmann::json& id) {
  std::lock_guard lock(state_->mutex);
  return !state_->cancelled.empty() && state_->cancelled.contains(id.dump());
}

void Inbox::forget(const nlohmann::json& id) {
  std::lock_guard lock(state_->mutex);
  state_->cancelled.erase(id.dump());
}

bool Inbox::is_waiting() {
  std::lock_guard lock(state_->mutex);
  return !state_->waiting.empty() || state_->is_at_end;
}

}  // namespace yc::serve
