#include "plan/attempts.h"

#include <algorithm>
#include <utility>

namespace yc {

// Makes the further ways where they are needed now.
void Attempt::settle() {
  if (next >= ways.ready.size() && ways.later) {
    auto make = std::exchange(ways.later, nullptr);
    for (Proposal& way : make()) ways.ready.push_back(std::move(way));
  }
  active = next < ways.ready.size();
}

bool Attempts::advance(const Problem& problem, bool likely, const Make& make) {
  if (!advanced_.insert(problem).second) return false;
  auto [at, fresh] = all_.try_emplace(problem);
  Attempt& attempt = at->second;
  if (fresh) {
    attempt = Attempt(make(), likely);
    return attempt.active;
  }
  if (!attempt.active) return false;
  attempt.step();
  return true;
}

bool Attempts::blame(const RelPath& file, const Span& span) {
  auto meets = [&](const Edit& edit) {
    return edit.file == file &&
           (edit.span == span || (edit.span.begin < span.end && span.begin < edit.span.end));
  };
  bool changed = false;
  for (auto& [problem, attempt] : all_) {
    bool guilty =
        attempt.active && std::any_of(attempt.way().edits.begin(), attempt.way().edits.end(), meets);
    if (guilty) changed = advance(problem) || changed;
  }
  return changed;
}

const Attempt* Attempts::find(const Problem& problem) const {
  auto at = all_.find(problem);
  return at == all_.end() ? nullptr : &at->second;
}

void Attempts::add(const Problem& problem, Ways ways, bool likely) {
  Attempt attempt(std::move(ways), likely);
  if (attempt.active) all_.emplace(problem, std::move(attempt));
}

}  // namespace yc
