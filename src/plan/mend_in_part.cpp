#include <algorithm>
#include <set>

#include "plan/planner.h"

namespace yc {

// What was moved already is broken as it stands: all edits that break nothing more are worth making, though
// others are lacking.
void Planner::mend_in_part(std::vector<Mismatch>& mismatches) {
  constexpr int kMostTries = 6;
  auto is_old = [&](const Mismatch& one) {
    return std::any_of(at_first_.begin(), at_first_.end(), [&](const Mismatch& other) {
      return other.kind == one.kind && other.reference == one.reference && other.target == one.target &&
             (one.reference >= 0 || other.now == one.now);
    });
  };
  for (int tries = 0; tries < kMostTries; ++tries) {
    std::set<RelPath> harmed;  // files in which an edit did harm, or may have
    for (const Mismatch& one : mismatches) {
      if (is_old(one)) continue;
      const ReferenceGraph& graph = one.reference >= 0 ? old_ : new_;
      std::int32_t number = one.reference >= 0 ? one.reference : one.new_reference;
      if (number < 0) return;
      Standing at = standing_of(graph.references[static_cast<std::size_t>(number)]);
      if (at.file == kNoFile) return;
      harmed.insert(one.reference >= 0 ? graph.files.path(at.file)
                                       : plan_.moves.unmap_file(graph.files.path(at.file)));
    }
    plan_.in_part = harmed.empty() && !plan_.edits.empty();
    if (harmed.empty()) return;
    bool any = false;
    for (auto& [problem, attempt] : attempts_.all()) {
      bool does_harm =
          attempt.active && std::any_of(attempt.way().edits.begin(), attempt.way().edits.end(),
                                        [&](const Edit& edit) { return harmed.contains(edit.file); });
      any = any || does_harm;
      attempt.active = attempt.active && !does_harm;
    }
    if (!any) return;
    bool was_confined = is_confined_;
    mismatches = verify();
    if (was_confined != is_confined_) return;  // the search would have to begin anew
  }
}

}  // namespace yc
