// A plan, and a second one where a wish of the first cannot be met.
#include <algorithm>

#include "formats/capabilities/companions.h"
#include "plan/planner.h"
#include "words/plan.h"

namespace yc {

namespace {

bool any_to_headers(const MoveSet& moves) {
  return std::any_of(moves.files().begin(), moves.files().end(), [](const Move& move) {
    RelPath folder = move.to.parent();
    std::vector<std::string_view> parts = folder.components();
    return std::any_of(parts.begin(), parts.end(),
                       [](std::string_view part) { return words::plan::header_folders().contains(part); });
  });
}

}  // namespace

Plan make_plan(const TreeReader& tree, MoveSet moves, const PlanOptions& options) {
  PlanOptions whole = options;
  if (!options.moved_already) {
    for (const auto& format : all_that_offer<NeededChanges>())
      whole.changes.made.merge(format->needed_files(tree, moves));
  }
  auto run = [&](const PlanOptions& with) {
    auto planner = std::make_shared<Planner>(tree, moves, with);
    Plan plan = planner->run();
    plan.workings = std::move(planner);
    return plan;
  };
  Plan plan = run(whole);
  // One more search root is a wish: where it does not do, includes are respelled as they always were.
  if (plan.verified || std::erase(whole.include_order, IncludeForm::header_root) == 0 ||
      !any_to_headers(moves))
    return plan;
  Plan kept = run(whole);
  return kept.verified ? kept : plan;
}

}  // namespace yc
