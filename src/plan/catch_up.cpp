#include "plan/catch_up.h"

#include <algorithm>
#include <map>
#include <set>

#include "formats/format.h"
#include "tree/overlay_tree.h"

namespace yc {

namespace {

// What led nowhere before these moves as well as after them has nothing to be compared with: a text that was
// mended for another place meanwhile, and is wrong. It is left to a person.
void tell_left(const TreeReader& now, FactsCache& cache, const MoveSet& moves, Plan& mending) {
  std::map<std::string, const Move*, std::less<>> by_name;
  for (const Move& move : moves.files()) by_name.emplace(move.to.name(), &move);
  MoveSet none;
  OverlayTree mended(now, none);
  mended.set_edits(&mending.edits);
  ReferenceGraph graph = read_graph(mended, cache);
  for (const Reference& reference : graph.references) {
    Standing at = standing_of(reference);
    bool is_lost = reference.dangling && reference.targets.empty() && reference.role != Role::product;
    if (!is_lost || at.file == kNoFile) continue;
    std::string text = reference.text.text();
    auto meant = by_name.find(text.substr(text.rfind('/') + 1));
    const RelPath& file = graph.files.path(at.file);
    auto edits = mending.edits.find(file);
    std::uint32_t begin =
        edits == mending.edits.end() ? at.span.begin : edits->second.unmap(at.span.begin).value_or(0);
    bool is_known = std::any_of(mending.blockers.begin(), mending.blockers.end(), [&](const Blocker& one) {
      return one.file == file && one.span && one.span->begin == begin;
    });
    if (meant == by_name.end() || is_known) continue;
    mending.blockers.push_back(
        {"lost", file, Span{begin, begin + at.span.size()}, text,
         "leads nowhere, before these moves and after them",
         "write it so that it leads to " + meant->second->to.str() + ", if that is meant"});
    if (mending.verified) mending.in_part = true;
    mending.verified = false;
  }
}

}  // namespace

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
  tell_left(now, cache, map, mending);
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
