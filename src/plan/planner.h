// The search for a plan that verifies: propose, read the planned tree, compare, try the next way where it
// differs.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>

#include "formats/capabilities/consequences.h"
#include "plan/mentions.h"
#include "plan/plan.h"
#include "tree/overlay_tree.h"

namespace yc {

// Its parts: planner.cpp reads and assembles, planner_respond.cpp answers to differences, planner_tidy.cpp
// takes away what is needless, planner_report.cpp tells.
class Planner {
 public:
  Planner(const TreeReader& tree, MoveSet moves, PlanOptions options);
  Plan run();

 private:
  // What is tried for one thing that is wrong.
  struct Attempt {
    std::vector<Proposal> ways;
    std::size_t next = 0;
    bool active = false;
    bool likely = false;
  };

  void read_both();
  bool assemble();
  bool is_as_read(const RelPath& old_path) const;
  void read_planned();
  std::vector<Mismatch> verify();
  void begin_respelling();
  std::vector<Mismatch> widen();
  void disregard(std::vector<Mismatch>& found) const;
  bool respond(const std::vector<Mismatch>& mismatches);
  void find_staying_bases();
  bool advance(const std::string& problem, const std::function<std::vector<Proposal>()>& ways, bool likely);
  void anticipate(const std::vector<Mismatch>& mismatches);
  bool respond_to_lost(const Mismatch& mismatch);
  bool respond_to_own_gain(const Mismatch& mismatch);
  bool respond_to_drift(const Mismatch& mismatch);
  bool blame_own_edit(const Mismatch& mismatch);
  bool blame_excluders(const Mismatch& mismatch);
  bool blame_edits_of(const Reference& reference);
  bool blame(const RelPath& file, const Span& span);
  bool respond_to_folders(const std::vector<const Mismatch*>& mismatches);
  std::vector<Mismatch> clean_up();
  void add_what_holds(const std::vector<Proposal>& ways, std::size_t most_tries);
  void drop_needless();
  void check_holes();
  void waive_guesses(std::vector<Mismatch>& mismatches);
  void note_consequences(std::vector<Mismatch>& mismatches);
  std::pair<TreeView, TreeView> views_for(std::uint8_t format) const;
  void put_in_the_way(Consequence item);
  void note_routes();
  void note_boundaries(const std::vector<Mismatch>& mismatches);
  void note_clashes();
  void report(const std::vector<Mismatch>& mismatches);
  void explain_round(const std::vector<Mismatch>& mismatches) const;
  Blocker describe(const Mismatch& mismatch) const;
  RelPath moved_base(const Reference& reference) const;
  void set_derived_apart();
  void list_edits();
  void add_folder_notices();
  void add_deeper_notices();
  void add_start_notices();
  void add_generated_notices();
  void add_repository_notices();
  void add_shadow_notices();
  void rewrite_mentions(std::vector<Mention>& mentions);
  void add_notices(const std::vector<Mention>& mentions);

  const TreeReader& tree_;
  PlanOptions options_;
  Plan plan_;
  FactsCache cache_;
  ClaimedFiles claimed_;                             // of the tree before the move
  GraphReader reader_;                               // of the planned tree
  bool is_fresh_ = false;                            // new_ is the planned tree without edits
  EditMap last_edits_;                               // that the planned tree was last read with
  std::optional<std::vector<Mismatch>> last_found_;  // with those edits
  OverlayTree overlay_;
  ReferenceGraph old_;
  ReferenceGraph new_;
  std::unique_ptr<ReferenceRewriter> respeller_;
  std::vector<RelPath> unreadable_;     // after all formats have read the tree
  std::vector<std::size_t> excluders_;  // references of old_ that take files out of lists
  Focus focus_;
  bool is_confined_ = true;                 // both graphs hold only what focus_ asks for
  std::map<std::string, Blocker> clashes_;  // of objects, in the planned tree as last read, or earlier if
                                            // nothing verified
  std::map<std::string, Attempt> attempts_;
  std::map<RelPath, bool> pattern_answers_;  // in this round, to who was lost there
  std::set<std::string> advanced_;           // in this round; a problem that many report goes one step only
  std::vector<Proposal> needed_;             // that hold from the start
  std::vector<Proposal> extra_;              // clean-up that verified
};

}  // namespace yc
