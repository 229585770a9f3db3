#include "plan/planner.h"

#include <fmt/format.h>

#include <algorithm>
#include <future>

#include "base/in_order.h"
#include "formats/capabilities/companions.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/words.h"
#include "plan/mentions.h"
#include "plan/printed_order.h"
#include "plan/routes.h"
#include "plan/unseen.h"

namespace yc {

namespace {

constexpr std::size_t kMostRounds = 40;

// A module is named without its ending.
void add_stems(const RelPath& path, std::unordered_set<std::string>& out) {
  std::string name(path.name());
  for (const auto& format : all_that_offer<ShortNames>()) format->add_short_names(path, out);
  while (true) {
    out.insert(name);
    std::size_t dot = name.rfind('.');
    if (dot == std::string::npos || dot == 0) return;
    name.resize(dot);
  }
}

Focus focus_of(const TreeReader& tree, const MoveSet& moves) {
  Focus out;
  for (const std::vector<Move>* pairs : {&moves.files(), &moves.merged()}) {
    for (const Move& move : *pairs) {
      for (const RelPath& path : {move.from, move.to}) {
        out.files.insert(path);
        out.names.emplace(path.name());
        add_stems(path, out.stems);
      }
    }
  }
  for (const Move& move : moves.files()) {
    RelPath folder = move.from.parent();
    if (!folder.is_root()) out.left.emplace(folder.name());
  }
  // A folder that is made may hide what bears its name.
  for (const Move& move : moves.files()) {
    for (RelPath up = move.to.parent(); !up.is_root() && !tree.is_folder(up); up = up.parent()) {
      out.names.emplace(up.name());
      out.stems.emplace(up.name());
    }
  }
  for (const auto& [folder, image] : moves.folders()) {
    if (image && *image == folder) continue;
    for (const RelPath& path : {folder, image.value_or(folder)}) {
      out.names.emplace(path.name());
      out.stems.emplace(path.name());
    }
  }
  return out;
}

// Whether a file moves that tells others where to look.
bool moves_a_governor(const MoveSet& moves) {
  auto scopes = all_that_offer<DefinesScope>();
  return std::any_of(moves.files().begin(), moves.files().end(), [&](const Move& move) {
    return std::any_of(scopes.begin(), scopes.end(), [&](const auto& scope) {
      return scope->defines_scope(move.from) || scope->defines_scope(move.to);
    });
  });
}

}  // namespace

Plan make_plan(const TreeReader& tree, MoveSet moves, const PlanOptions& options) {
  PlanOptions whole = options;
  if (!options.moved_already) {
    for (const auto& format : all_that_offer<NeededChanges>())
      whole.changes.made.merge(format->needed_files(tree, moves));
  }
  auto planner = std::make_shared<Planner>(tree, std::move(moves), std::move(whole));
  Plan plan = planner->run();
  plan.workings = std::move(planner);
  return plan;
}

namespace {

Plan begun(MoveSet moves, FileChanges changes) {
  Plan plan;
  plan.moves = std::move(moves);
  plan.changes = std::move(changes);
  return plan;
}

}  // namespace

Planner::Planner(const TreeReader& tree, MoveSet moves, PlanOptions options)
    : tree_(tree),
      options_(std::move(options)),
      plan_(begun(std::move(moves), options_.changes)),
      overlay_(tree, plan_.moves, plan_.changes) {}

Plan Planner::run() {
  focus_ = focus_of(tree_, plan_.moves);
  if (moves_a_governor(plan_.moves)) is_confined_ = false;
  claimed_ = claimed_files(tree_);
  reader_ = GraphReader(claimed_files(overlay_, tree_, claimed_));
  for (std::size_t i = 0; i < formats().size(); ++i) {
    const auto* incremental = offer<Incremental>(*formats()[i]);
    if (incremental)
      incremental->prepare(tree_, cache_, static_cast<std::uint8_t>(i), claimed_[i],
                           is_confined_ ? &focus_ : nullptr);
  }
  if (!options_.moved_already) {
    for (const auto& format : all_that_offer<NeededChanges>()) {
      std::vector<Proposal> needed = format->needed_edits({tree_, claimed_[format.format]}, plan_.moves);
      std::move(needed.begin(), needed.end(), std::back_inserter(needed_));
    }
  }
  read_both();
  unreadable_ = tree_.unreadable();
  // What readers looked through in vain for all names holds no path either.
  std::vector<InOrder<RelPath>> skipped;
  for (std::size_t i = 0; i < formats().size(); ++i)
    skipped.emplace_back(cache_.skipped(static_cast<std::uint8_t>(i), is_confined_ ? &focus_ : nullptr));
  auto is_free = [&](const RelPath& path) {
    if (std::any_of(skipped.begin(), skipped.end(), [&](auto& list) { return list.has(path); })) return true;
    return cache_.known_verdict(path, tree_.find(path)->size) == std::optional(false);
  };
  auto mentions =
      std::async(std::launch::async, [&] { return find_mentions(tree_, old_, plan_.moves, is_free); });
  plan_.references_read = old_.references.size();
  begin_respelling();
  check_holes();
  std::vector<Mismatch> mismatches;
  for (plan_.rounds = 1; plan_.rounds <= kMostRounds; ++plan_.rounds) {
    mismatches = verify();
    explain_round(mismatches);
    note_clashes();
    if (mismatches.empty()) {
      bool was_confined = is_confined_;
      mismatches = clean_up();
      if (was_confined == is_confined_) break;  // else the search begins anew, with everything in sight
    }
    if (!respond(mismatches)) break;
  }
  if (mismatches.empty()) clashes_.clear();
  note_clashes();
  note_consequences(mismatches);
  note_boundaries(mismatches);
  for (auto& [object, clash] : clashes_) plan_.blockers.push_back(std::move(clash));
  waive_guesses(mismatches);
  if (mismatches.empty()) {
    plan_.verified = plan_.blockers.empty();
  } else {
    report(mismatches);
  }
  note_routes();
  std::vector<Mention> named = mentions.get();
  if (options_.rewrite_mentions && plan_.verified) rewrite_mentions(named);
  set_derived_apart();
  list_edits();
  add_notices(named);
  return std::move(plan_);
}

// The two trees are read side by side: the planned one, still without edits, is wanted in the first round
// anyway.
void Planner::read_both() {
  auto changed = [](const RelPath&) { return false; };
  const Focus* focus = is_confined_ ? &focus_ : nullptr;
  auto old = std::async(std::launch::async,
                        [&] { return GraphReader(claimed_).read(tree_, cache_, changed, focus); });
  // In this thread, whose memory will serve for the next reading too.
  new_ = reader_.read(overlay_, cache_, changed, focus);
  old_ = old.get();
  is_fresh_ = true;
}

// Puts the edits of all active ways together. A way that clashes with one already in gives place to its next.
bool Planner::assemble() {
  bool whole = true;
  plan_.edits.clear();
  // All edits of a way or none.
  auto add_all = [&](const Proposal& way) {
    std::vector<const Edit*> added;
    for (const Edit& edit : way.edits) {
      if (plan_.changes.dropped.contains(edit.file)) continue;  // it goes, with all that stands in it
      FileEdits& edits = plan_.edits[edit.file];
      if (edits.has(edit.span, edit.text, edit.pair)) continue;
      if (!edits.add(edit.span, edit.text, edit.pair)) {
        for (const Edit* other : added)
          plan_.edits[other->file].remove(other->span, other->text, other->pair);
        if (edits.empty()) plan_.edits.erase(edit.file);
        return false;
      }
      added.push_back(&edit);
    }
    return true;
  };
  for (const Proposal& way : needed_) add_all(way);
  for (auto& [problem, attempt] : attempts_) {
    while (attempt.active && !add_all(attempt.ways[attempt.next])) {
      ++attempt.next;
      attempt.active = attempt.next < attempt.ways.size();
      whole = false;
    }
  }
  for (const Proposal& way : extra_) whole = add_all(way) && whole;
  return whole;
}

// Whether a file has the same edits as when the planned tree was last read.
bool Planner::is_as_read(const RelPath& old_path) const {
  auto now = plan_.edits.find(old_path), then = last_edits_.find(old_path);
  bool any_now = now != plan_.edits.end(), any_then = then != last_edits_.end();
  return any_now == any_then && (!any_now || now->second.items() == then->second.items());
}

void Planner::read_planned() {
  if (!is_fresh_ || !plan_.edits.empty()) {
    new_ = {};  // gives its memory to the next
    auto same = [&](const RelPath& path) { return is_as_read(plan_.moves.unmap_file(path)); };
    new_ = reader_.read(overlay_, cache_, same, is_confined_ ? &focus_ : nullptr);
  }
  is_fresh_ = false;
  last_edits_ = plan_.edits;
}

std::vector<Mismatch> Planner::verify() {
  assemble();
  overlay_.set_edits(&plan_.edits);
  bool known = last_found_ && plan_.edits.size() == last_edits_.size() &&
               std::all_of(plan_.edits.begin(), plan_.edits.end(),
                           [&](const auto& item) { return is_as_read(item.first); });
  if (known) return *last_found_;
  read_planned();
  std::vector<Mismatch> found =
      compare_graphs(tree_, old_, new_, plan_.moves, plan_.edits, options_.moved_already);
  disregard(found);
  // Where a unit's search roots are others than before, any include may lead elsewhere: everything is looked
  // at.
  if (found.empty() && is_confined_ &&
      !same_search_roots(tree_, overlay_, old_, new_, plan_.moves, plan_.edits))
    return widen();
  last_found_ = found;
  return found;
}

// That a list takes in a file which the plan makes on purpose, and that what stood in a file which goes leads
// nowhere.
void Planner::disregard(std::vector<Mismatch>& found) const {
  if (plan_.changes.empty()) return;
  // Who asks for the old name, and gets a file that leads on to where it went, is served.
  std::set<std::pair<std::int32_t, RelPath>> served;
  for (const Mismatch& mismatch : found) {
    auto stand_in = plan_.changes.stand_ins.find(mismatch.now);
    if (mismatch.kind == Mismatch::Kind::gained && stand_in != plan_.changes.stand_ins.end())
      served.emplace(mismatch.reference, stand_in->second);
  }
  std::erase_if(found, [&](const Mismatch& mismatch) {
    return mismatch.kind == Mismatch::Kind::lost && mismatch.target.kind == Target::Kind::tree &&
           served.contains({mismatch.reference, plan_.moves.map_file(mismatch.target.path)});
  });
  std::erase_if(found, [&](const Mismatch& mismatch) {
    if (mismatch.kind == Mismatch::Kind::gained) {
      const Reference& now = new_.references[static_cast<std::size_t>(mismatch.new_reference)];
      bool stands_in_made = !now.key.empty() && now.key.back().file != kNoFile &&
                            plan_.changes.made.contains(new_.files.path(now.key.back().file));
      return stands_in_made || plan_.changes.made.contains(mismatch.now);
    }
    if (mismatch.reference < 0) return false;
    const Reference& reference = old_.references[static_cast<std::size_t>(mismatch.reference)];
    return !reference.key.empty() && reference.key.back().file != kNoFile &&
           plan_.changes.dropped.contains(old_.files.path(reference.key.back().file));
  });
}

void Planner::begin_respelling() {
  respeller_ = std::make_unique<ReferenceRewriter>(tree_, overlay_, old_, plan_.moves, options_.include_order,
                                                   options_.alias_from, &cache_);
  excluders_.clear();
  for (std::size_t i = 0; i < old_.references.size(); ++i) {
    if (old_.references[i].excludes) excluders_.push_back(i);
  }
}

std::vector<Mismatch> Planner::widen() {
  is_confined_ = false;
  last_found_.reset();
  plan_.edits.clear();
  overlay_.set_edits(nullptr);
  old_ = GraphReader(claimed_).read(tree_, cache_, [](const RelPath&) { return false; });
  // References have other numbers now, so what was tried for them is tried anew.
  begin_respelling();
  attempts_.clear();
  return verify();
}

bool Planner::advance(const std::string& problem, const std::function<std::vector<Proposal>()>& ways,
                      bool likely) {
  if (!advanced_.insert(problem).second) return false;
  auto [at, fresh] = attempts_.try_emplace(problem);
  Attempt& attempt = at->second;
  if (fresh) {
    attempt.ways = ways();
    attempt.likely = likely;
    attempt.active = !attempt.ways.empty();
    return attempt.active;
  }
  if (!attempt.active) return false;
  ++attempt.next;
  attempt.active = attempt.next < attempt.ways.size();
  return true;
}

// A source that nothing here compiles may mean an installed header by <…>. Where such an include cannot
// follow, that is told, and stands in nobody's way.
void Planner::waive_guesses(std::vector<Mismatch>& mismatches) {
  std::vector<Notice> told;
  std::erase_if(mismatches, [&](const Mismatch& mismatch) {
    if (mismatch.kind != Mismatch::Kind::lost || mismatch.reference < 0) return false;
    const Reference& reference = old_.references[static_cast<std::size_t>(mismatch.reference)];
    // Where nothing is left to be kept out of a list, a word that did so has nothing to lead to.
    bool is_set = reference.is_pattern() || reference.role == Role::argument;
    if (reference.excludes && is_set && respeller_->leads_nowhere(reference)) return true;
    // No script compiles the file, or the folders that one searches for it do not hold what is included: then
    // it comes from elsewhere, as from an installed package.
    auto in_unit = [](const InContext& in) { return in.context != kNoContext; };
    bool compiled = std::any_of(reference.contexts.begin(), reference.contexts.end(), in_unit);
    bool guess = reference.role == Role::include && reference.certainty == Certainty::likely &&
                 (compiled ? std::none_of(reference.contexts.begin(), reference.contexts.end(),
                                          [&](const InContext& in) { return in_unit(in) && in.found; })
                           : reference.is_angled());
    if (!guess) return false;
    Standing at = standing_of(reference);
    std::string spelled =
        reference.is_angled() ? "<" + reference.text.text() + ">" : "\"" + reference.text.text() + "\"";
    told.push_back(
        {"unfollowed", old_.files.path(at.file), at.span, true,
         fmt::format("{} may mean {}, which moves; {}, so it is left", spelled, mismatch.target.path.str(),
                     compiled ? "no folder that its build script searches holds it"
                              : "nothing here compiles this file")});
    return true;
  });
  if (mismatches.empty()) plan_.notices.insert(plan_.notices.end(), told.begin(), told.end());
}

void Planner::note_consequences(std::vector<Mismatch>& mismatches) {
  if (options_.accept_unseen) return;
  std::vector<Consequence> found;
  for (const auto& format : all_that_offer<Consequences>()) {
    auto [before, planned] = views_for(format.format);
    std::vector<Consequence> more = format->consequences(before, planned, plan_.moves);
    std::move(more.begin(), more.end(), std::back_inserter(found));
  }
  auto behind = std::stable_partition(found.begin(), found.end(), [](const Consequence& item) {
    return item.bearing == Consequence::Bearing::stands_for_all;
  });
  if (behind != found.begin()) mismatches.clear();
  for (Consequence& item : found) {
    // Where references are lost, what may come of it is not known yet.
    if (mismatches.empty() || item.bearing != Consequence::Bearing::by_itself)
      put_in_the_way(std::move(item));
  }
}

std::pair<TreeView, TreeView> Planner::views_for(std::uint8_t format) const {
  return {TreeView{{tree_, old_}, claimed_[format]}, TreeView{{overlay_, new_}, reader_.claimed()[format]}};
}

void Planner::put_in_the_way(Consequence item) {
  plan_.blockers.push_back({std::move(item.id), std::move(item.file), item.span.value_or(Span{}),
                            item.span.has_value(), std::move(item.text), std::move(item.reason),
                            std::move(item.next)});
}

// References between units that the move makes needed: added if that is wished for, else they stand in the
// way.
void Planner::note_boundaries(const std::vector<Mismatch>& mismatches) {
  if (!mismatches.empty()) return;
  auto refuse = [&](std::vector<Consequence>& list) {
    for (Consequence& item : list) put_in_the_way(std::move(item));
  };
  for (const auto& format : all_that_offer<Boundaries>()) {
    auto [before, planned] = views_for(format.format);
    BoundaryReport found = format->boundary_changes(before, planned, plan_.moves);
    plan_.notices.insert(plan_.notices.end(), found.notices.begin(), found.notices.end());
    if (!options_.accept_unseen) refuse(found.refusals);
    if (options_.link_units) {
      for (Proposal& way : found.links) extra_.push_back(std::move(way));
      if (!found.links.empty()) assemble();
    } else if (!options_.accept_unseen) {
      refuse(found.lacks);
    }
  }
}

void Planner::note_routes() {
  if (options_.moved_already) return;
  std::vector<RouteFolder> folders = options_.routes;
  for (const auto& format : all_that_offer<Routes>()) {
    std::vector<RouteFolder> more = format->route_folders({tree_, claimed_[format.format]});
    std::move(more.begin(), more.end(), std::back_inserter(folders));
  }
  for (Blocker& item : changed_routes(plan_.moves, folders)) {
    if (options_.allow_routes) {
      plan_.notices.push_back({"route", item.file, {}, false, item.reason});
    } else {
      plan_.blockers.push_back(std::move(item));
      plan_.verified = false;
    }
  }
}

void Planner::check_holes() {
  UnseenReferences unseen = unseen_references(old_, plan_.moves);
  std::vector<Blocker> found = std::move(unseen.in_the_way);
  for (Blocker& item : unread_files(tree_, old_, plan_.moves, unreadable_)) found.push_back(std::move(item));
  for (Blocker& item : changed_orders(tree_, old_, plan_.moves)) found.push_back(std::move(item));
  (options_.accept_unseen ? plan_.accepted : plan_.blockers) = std::move(found);
  if (!options_.accept_unseen)
    plan_.notices.insert(plan_.notices.end(), unseen.vague.begin(), unseen.vague.end());
}

}  // namespace yc
