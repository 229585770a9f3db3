#include "plan/attempts.h"

#include <algorithm>

namespace yc {

bool Attempts::advance(const Problem& problem, bool likely, const Make& make) {
  if (!advanced_.insert(problem).second) return false;
  auto [at, fresh] = all_.try_emplace(problem);
  Attempt& attempt = at->second;
  if (fresh) {
    attempt.ways = make();
    attempt.likely = likely;
    attempt.active = !attempt.ways.empty();
    return attempt.active;
  }
  if (!attempt.active) return false;
  ++attempt.next;
  attempt.active = attempt.next < attempt.ways.size();
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

void Attempts::add(const Problem& problem, std::vector<Proposal> ways, bool likely) {
  all_.emplace(problem, Attempt{std::move(ways), 0, true, likely});
}

}  // namespace yc
