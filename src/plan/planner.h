// The search for a plan that verifies: propose, read the planned tree, compare, try the next way where it
// differs. What each step does with the plan is in files of their own: attempts, compare, responder,
// leftovers, describe, notices.
#pragma once

#include <future>
#include <limits>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>

#include "plan/attempts.h"
#include "plan/mentions.h"
#include "plan/plan.h"
#include "plan/plan_view.h"
#include "tree/overlay_tree.h"

namespace yc {

class Planner {
 public:
  Planner(const TreeReader& tree, MoveSet moves, PlanOptions options);
  Plan run();

 private:
  Stopwatch watch(std::string part) { return {cache_.timings(), "plan", std::move(part)}; }
  void claim();
  void prepare();
  void read_both();
  ReferenceGraph read_old(const Focus* focus);
  bool assemble();
  bool is_as_read(const RelPath& old_path) const;
  void read_planned();
  std::vector<Mismatch> verify();
  void begin_rewriting();
  bool adds_search_root() const;
  std::vector<Mismatch> widen();
  void disregard(std::vector<Mismatch>& found) const;
  std::vector<Mismatch> clean_up();
  void add_what_holds(const std::vector<Proposal>& ways, std::size_t most_tries);
  void drop_needless();
  void set_guesses_apart(std::vector<Mismatch>& mismatches);
  bool is_unwanted() const { return options_.is_unwanted && options_.is_unwanted(); }
  bool accepts_doubts() const { return options_.accept_unseen || options_.builds_judge; }
  void note_doubts();
  void note_edited();
  void note_mentions(std::vector<Mention>& mentions);
  void raise(std::vector<Blocker> doubts);
  void note_stale();
  void note_consequences(std::vector<Mismatch>& mismatches);
  void note_routes();
  void note_boundaries(const std::vector<Mismatch>& mismatches);
  void mend_in_part(std::vector<Mismatch>& mismatches);
  void note_clashes();
  void tell(const std::vector<Notice>& notices);
  void object(const std::vector<Blocker>& blockers);
  void rewrite_mentions(std::vector<Mention>& mentions);
  void set_derived_apart();
  void list_edits();
  IsFree holds_no_name();

  const TreeReader& tree_;
  PlanOptions options_;
  Plan plan_;
  std::shared_ptr<FactsCache> own_cache_;  // or the caller's
  FactsCache& cache_;
  ClaimedFiles claimed_;                             // of the tree before the move
  std::shared_ptr<const Scopes> observed_;           // how sources were seen to be compiled
  GraphReader reader_;                               // of the planned tree
  std::vector<Mismatch> at_first_;                   // before anything was mended
  bool is_fresh_ = false;                            // new_ is the planned tree without edits
  EditMap last_edits_;                               // that the planned tree was last read with
  std::optional<std::vector<Mismatch>> last_found_;  // with those edits
  OverlayTree overlay_;
  ReferenceGraph old_;
  ReferenceGraph new_;
  ClaimedFiles claimed_planned_;
  PlanView view_;
  std::unique_ptr<ReferenceRewriter> rewriter_;
  std::vector<RelPath> unreadable_;     // after all formats have read the tree
  std::vector<std::size_t> excluders_;  // references of old_ that take files out of lists
  Focus focus_;
  bool is_confined_ = true;                 // both graphs hold only what focus_ asks for
  std::map<std::string, Blocker> clashes_;  // of objects, in the planned tree as last read, or earlier if
                                            // nothing verified
  Attempts attempts_;
  Attempts best_;  // as they were when the fewest things were wrong
  std::size_t fewest_ = std::numeric_limits<std::size_t>::max();
  std::future<std::vector<Mention>> mentions_;
  std::vector<Proposal> needed_;  // that hold from the start
  std::vector<Proposal> extra_;   // clean-up that verified
};

}  // namespace yc
