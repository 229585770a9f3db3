// The answer to what differs: which way is tried next, and which gives place.
#pragma once

#include <map>
#include <vector>

#include "plan/attempts.h"
#include "plan/plan_view.h"
#include "plan/rewriter.h"

namespace yc {

class Responder {
 public:
  // All must outlive it; `excluders` are the references of the old graph that take files out of lists.
  Responder(const PlanView& view, ReferenceRewriter& rewriter, const std::vector<std::size_t>& excluders,
            Attempts& attempts)
      : view_(view), rewriter_(rewriter), excluders_(excluders), attempts_(attempts) {}

  // Changes what is tried; false if there is nothing left to try.
  bool respond(const std::vector<Mismatch>& mismatches);

 private:
  void find_staying_bases();
  void anticipate(const std::vector<Mismatch>& mismatches);
  bool respond_to_all_lost(const std::vector<Mismatch>& mismatches);
  bool respond_to_lost(const Mismatch& mismatch);
  bool respond_to_own_gain(const Mismatch& mismatch);
  bool respond_to_drift(const Mismatch& mismatch);
  bool blame_own_edit(const Mismatch& mismatch);
  bool blame_excluders(const Mismatch& mismatch);
  bool blame_edits_of(const Reference& reference);
  bool respond_to_folders(const std::vector<const Mismatch*>& mismatches);

  const PlanView& view_;
  ReferenceRewriter& rewriter_;
  const std::vector<std::size_t>& excluders_;
  Attempts& attempts_;
  std::map<RelPath, bool> pattern_answers_;  // to who was lost there
};

}  // namespace yc
