#include "plan/catch_up.h"

#include <set>

#include "formats/format.h"
#include "tree/overlay_tree.h"

namespace yc {

Result<CaughtUp> catch_up(const TreeReader& now, const std::vector<Move>& moves, const PlanOptions& options) {
  std::vector<Move> reversed;
  for (const Move& move : moves) reversed.push_back({move.to, move.from});
  auto back = MoveSet::make(now, reversed);
  if (!back) return back.error();
  OverlayTree before(now, *back);
  auto forth = MoveSet::make(before, moves);
  if (!forth) return forth.error();
  PlanOptions after_the_fact = options;
  after_the_fact.moved_already = true;
  CaughtUp out{make_plan(before, std::move(*forth), after_the_fact), {}, 0};
  out.plan.workings.reset();  // it looks at the view, which ends here
  const MoveSet& map = out.plan.moves;
  Plan& mending = out.mending;
  for (const auto& [path, edits] : out.plan.edits) mending.edits[map.map_file(path)] = edits;
  for (const auto& [path, hash] : out.plan.hashes) mending.hashes[map.map_file(path)] = hash;
  for (PlannedEdit edit : out.plan.edit_list) {
    edit.file = map.map_file(edit.file);
    mending.edit_list.push_back(std::move(edit));
  }
  for (Notice notice : out.plan.notices) {
    notice.file = map.map_file(notice.file);
    mending.notices.push_back(std::move(notice));
  }
  for (Blocker item : out.plan.blockers) {
    item.file = map.map_file(item.file);
    mending.blockers.push_back(std::move(item));
  }
  mending.references_read = out.plan.references_read;
  mending.verified = out.plan.verified;
  mending.in_part = out.plan.in_part && !mending.edit_list.empty();
  std::set<RelPath> places;
  for (const Move& move : map.files()) places.insert(move.to);
  FactsCache cache;
  for (const Reference& reference : read_graph(now, cache).references) {
    bool leads = reference.role != Role::product &&
                 std::any_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
                   return target.kind == Target::Kind::tree && places.contains(target.path);
                 });
    out.already += leads;
  }
  return out;
}

}  // namespace yc
