#include "plan/planner.h"

#include <fmt/format.h>

#include <algorithm>
#include <future>
#include <limits>

#include "base/in_order.h"
#include "formats/capabilities/companions.h"
#include "formats/capabilities/spellings.h"
#include "plan/absent_edits.h"
#include "plan/compared_files.h"
#include "plan/describe.h"
#include "plan/focus.h"
#include "plan/handed_folders.h"
#include "plan/leftovers.h"
#include "plan/names_in_code.h"
#include "plan/notices.h"
#include "plan/objections.h"
#include "plan/observed_contexts.h"
#include "plan/responder.h"
#include "plan/stale_outputs.h"

namespace yc {

namespace {

constexpr std::size_t kMostRounds = 40;

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
      own_cache_(options_.facts ? options_.facts
                                : std::make_shared<FactsCache>(options_.timings, options_.parts)),
      cache_(*own_cache_),
      overlay_(tree, plan_.moves, plan_.changes),
      view_{tree, old_, overlay_, new_, plan_.moves, plan_.edits, claimed_, claimed_planned_} {}

// Which files each format reads, in both trees.
void Planner::claim() {
  Stopwatch timed = watch("list files");
  focus_ = focus_of(tree_, plan_.moves);
  if (moves_a_governor(plan_.moves)) is_confined_ = false;
  claimed_ = options_.reader ? options_.reader->claimed() : claimed_files(tree_);
  claimed_planned_ = claimed_files(overlay_, tree_, claimed_);
  observed_ = observed_contexts(tree_, options_.observed);
  reader_ = GraphReader(claimed_planned_, moved_contexts(observed_, plan_.moves));
}

void Planner::prepare() {
  for (std::size_t i = 0; i < formats().size(); ++i) {
    const auto* incremental = offer<Incremental>(*formats()[i]);
    if (!incremental) continue;
    Stopwatch timed(cache_.timings(), "scan", std::string(formats()[i]->name()));
    incremental->prepare(tree_, cache_, static_cast<std::uint8_t>(i), claimed_[i],
                         is_confined_ ? &focus_ : nullptr);
  }
  if (!options_.edits.empty()) needed_.push_back({options_.edits, ""});
  if (options_.moved_already) return;
  for (const auto& format : all_that_offer<NeededChanges>()) {
    std::vector<Proposal> needed = format->needed_edits({tree_, claimed_[format.format]}, plan_.moves);
    std::move(needed.begin(), needed.end(), std::back_inserter(needed_));
  }
}

Plan Planner::run() {
  claim();
  prepare();
  if (is_unwanted()) return std::move(plan_);
  read_both();
  unreadable_ = tree_.unreadable();
  mentions_ = std::async(std::launch::async, [this, is_free = holds_no_name()] {
    Stopwatch timed = watch("look for mentions");
    return find_mentions(tree_, old_, plan_.moves, is_free);
  });
  plan_.references_read = old_.references.size();
  begin_rewriting();
  note_doubts();
  std::vector<Mismatch> mismatches;
  for (plan_.rounds = 1; plan_.rounds <= kMostRounds; ++plan_.rounds) {
    if (is_unwanted()) return std::move(plan_);
    mismatches = verify();
    if (plan_.rounds == 1) at_first_ = mismatches;
    if (options_.explain) explain_round(view_, plan_.rounds, attempts_, mismatches, options_.explain);
    note_clashes();
    if (mismatches.empty()) {
      bool was_confined = is_confined_;
      mismatches = clean_up();
      if (was_confined == is_confined_) break;  // else the search begins anew, with everything in sight
    }
    if (!plan_.edits.empty() && mismatches.size() < fewest_) {
      fewest_ = mismatches.size();
      best_ = attempts_;
    }
    if (!Responder(view_, *rewriter_, excluders_, attempts_).respond(mismatches)) break;
  }
  // What is told is what stood in the way of the best try, not of the last.
  if (mismatches.size() > fewest_) {
    attempts_ = best_;
    mismatches = verify();
  }
  if (!mismatches.empty() && options_.moved_already) mend_in_part(mismatches);
  if (mismatches.empty()) clashes_.clear();
  note_clashes();
  note_consequences(mismatches);
  note_boundaries(mismatches);
  for (auto& [object, clash] : clashes_) plan_.blockers.push_back(std::move(clash));
  set_guesses_apart(mismatches);
  if (mismatches.empty()) {
    plan_.verified = plan_.blockers.empty();
    plan_.in_part = options_.moved_already && !plan_.verified;
  } else {
    put_in_the_way(view_, mismatches, plan_.blockers);
  }
  note_routes();
  std::vector<Mention> named = mentions_.get();
  note_mentions(named);
  note_edited();
  note_stale();
  set_derived_apart();
  list_edits();
  tell(notices_of(view_, named, plan_.verified));
  plan_.references_kept = references_kept(view_);
  return std::move(plan_);
}

// What is known of the tree already is not read again.
ReferenceGraph Planner::read_old(const Focus* focus) {
  GraphReader reader =
      options_.reader ? options_.reader->without_sources() : GraphReader(claimed_, observed_);
  return reader.read(
      tree_, cache_, [&](const RelPath&) { return options_.reader != nullptr; }, focus);
}

// The planned tree, still without edits, is wanted in the first round anyway. It comes second: what the move
// leaves as it is was read by then, and is kept.
void Planner::read_both() {
  auto changed = [](const RelPath&) { return false; };
  const Focus* focus = is_confined_ ? &focus_ : nullptr;
  old_ = read_old(focus);
  new_ = reader_.read(overlay_, cache_, changed, focus);
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
  for (auto& [problem, attempt] : attempts_.all()) {
    while (attempt.active && !add_all(attempt.way())) {
      attempt.step();
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
  if (is_confined_ && adds_search_root()) return widen();
  read_planned();
  Stopwatch timed = watch("compare");
  std::vector<Mismatch> found =
      compare_graphs(tree_, old_, new_, plan_.moves, plan_.edits, options_.moved_already);
  disregard(found);
  // Where search roots are others than before, or a text that others go on from, all is looked at.
  if (found.empty() && is_confined_ &&
      (edits_shared_text(old_, plan_.edits) ||
       !same_search_roots(tree_, overlay_, old_, new_, plan_.moves, plan_.edits)))
    return widen();
  last_found_ = found;
  return found;
}

// What nobody needs any more, that a list takes in a file which the plan makes on purpose, and that what
// stood in a file which goes leads nowhere.
void Planner::disregard(std::vector<Mismatch>& found) const {
  std::erase_if(found, [&](const Mismatch& mismatch) {
    if (mismatch.kind != Mismatch::Kind::lost || mismatch.reference < 0) return false;
    const Reference& reference = old_.references[static_cast<std::size_t>(mismatch.reference)];
    const auto* spellings = offer<Spellings>(format_at(reference.format));
    return spellings && spellings->is_moot(old_, new_, plan_.moves, reference);
  });
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
      bool stands_in_made = !now.construct.empty() && now.construct.back().file != kNoFile &&
                            plan_.changes.made.contains(new_.files.path(now.construct.back().file));
      return stands_in_made || plan_.changes.made.contains(mismatch.now);
    }
    if (mismatch.reference < 0) return false;
    const Reference& reference = old_.references[static_cast<std::size_t>(mismatch.reference)];
    bool has_gone =
        mismatch.kind == Mismatch::Kind::lost && plan_.changes.dropped.contains(mismatch.target.path);
    if (has_gone && reference.is_pattern()) return true;  // it takes whatever is there
    return !reference.construct.empty() && reference.construct.back().file != kNoFile &&
           plan_.changes.dropped.contains(old_.files.path(reference.construct.back().file));
  });
}

void Planner::begin_rewriting() {
  fewest_ = std::numeric_limits<std::size_t>::max();
  rewriter_ = std::make_unique<ReferenceRewriter>(tree_, overlay_, old_, plan_.moves, options_.include_order,
                                                  options_.alias_from, &cache_);
  excluders_.clear();
  for (std::size_t i = 0; i < old_.references.size(); ++i) {
    if (old_.references[i].excludes) excluders_.push_back(i);
  }
}

std::vector<Mismatch> Planner::widen() {
  mentions_.wait();  // they are found by the old graph
  is_confined_ = false;
  last_found_.reset();
  plan_.edits.clear();
  overlay_.set_edits(nullptr);
  old_ = read_old(nullptr);
  // References have other numbers now, so what was tried for them is tried anew.
  begin_rewriting();
  attempts_.clear();
  return at_first_ = verify();
}

// Whether an include is to follow by what is put into a script. What else finds its headers by that must be
// in sight then, so that nothing is read in vain before.
bool Planner::adds_search_root() const {
  for (const auto& [problem, attempt] : attempts_.all()) {
    if (!attempt.active || problem.kind != Problem::Kind::reference) continue;
    const Reference& reference = old_.references[static_cast<std::size_t>(problem.number)];
    if (reference.role != Role::include) continue;
    const RelPath& includer = old_.files.path(reference.construct.front().file);
    for (const Edit& edit : attempt.way().edits) {
      if (edit.file != includer && edit.span.size() == 0) return true;
    }
  }
  return false;
}

// A source that nothing here compiles may mean an installed header by <…>. Where such an include cannot
// follow, it is a doubt: the folders that are searched may be more than those that were read.
void Planner::set_guesses_apart(std::vector<Mismatch>& mismatches) {
  std::vector<Blocker> doubts;
  std::erase_if(mismatches, [&](const Mismatch& mismatch) {
    if (mismatch.kind != Mismatch::Kind::lost || mismatch.reference < 0) return false;
    const Reference& reference = old_.references[static_cast<std::size_t>(mismatch.reference)];
    // Where nothing is left to be kept out of a list, a word that did so has nothing to lead to.
    bool is_set = reference.is_pattern() || reference.role == Role::argument;
    if (reference.excludes && is_set && rewriter_->leads_nowhere(reference)) return true;
    // No script compiles the file, or the folders that one searches for it do not hold what is included: then
    // it may come from elsewhere, as from an installed package.
    auto in_unit = [](const InContext& in) { return in.context != kNoContext; };
    bool compiled = std::any_of(reference.contexts.begin(), reference.contexts.end(), in_unit);
    bool guess = reference.role == Role::include && reference.certainty == Certainty::likely &&
                 (compiled ? std::none_of(reference.contexts.begin(), reference.contexts.end(),
                                          [&](const InContext& in) { return in_unit(in) && in.found; })
                           : reference.is_angled());
    if (guess) doubts.push_back(guessed_include(old_, reference, mismatch.target.path, compiled));
    return guess;
  });
  if (!mismatches.empty()) return;
  raise(std::move(doubts));
  if (!options_.moved_already) raise(uninstalled(view_));
  // Where more is known of the folder, that is told.
  if (plan_.blockers.empty()) raise(changed_handed_folders(tree_, old_, plan_.moves));
  if (plan_.blockers.empty()) raise(names_left_in_code(tree_, old_, view_.now, plan_.moves));
}

// Texts that cannot be known, languages that are not read, and reads that nothing explains.
void Planner::note_doubts() {
  Stopwatch timed = watch("doubts");
  std::vector<Notice> vague;
  std::vector<Blocker> found = doubts(view_, unreadable_, vague);
  if (options_.moved_already) std::erase_if(found, [](const Blocker& one) { return one.id == "not-built"; });
  std::vector<UnexplainedRead> unexplained = unexplained_moves(plan_.moves, old_, options_.observed);
  // The graph at hand holds what names the moved files, not what leads to their folders.
  if (!unexplained.empty() && is_confined_)
    unexplained = unexplained_moves(plan_.moves, read_old(nullptr), options_.observed);
  for (const UnexplainedRead& read : unexplained) found.push_back(unexplained_read(read));
  raise(std::move(found));
  if (!accepts_doubts()) tell(vague);
}

void Planner::raise(std::vector<Blocker> doubts) {
  for (Blocker& one : doubts) one.is_doubt = true;
  plan_.settled +=
      std::erase_if(doubts, [&](const Blocker& one) { return is_settled(one, options_.settled); });
  std::vector<Blocker>& list = accepts_doubts() ? plan_.accepted : plan_.blockers;
  std::move(doubts.begin(), doubts.end(), std::back_inserter(list));
}

void Planner::note_stale() {
  if (options_.moved_already || !plan_.verified) return;
  Stopwatch timed = watch("what the last build left");
  set_stale_apart(tree_, options_.sweep, plan_);
}

// What must not change, or not unseen. What a sparse checkout leaves out is read, and cannot be changed.
void Planner::note_edited() {
  if (plan_.verified && !options_.moved_already) raise(edits_of_compared(old_, plan_.edits));
  plan_.verified = plan_.verified && plan_.blockers.empty();
  std::vector<Blocker> found = set_absent_apart(tree_, plan_);
  if (found.empty()) return;
  std::move(found.begin(), found.end(), std::back_inserter(plan_.blockers));
  plan_.in_part = plan_.in_part || options_.moved_already;
  plan_.verified = false;
}

void Planner::note_consequences(std::vector<Mismatch>& mismatches) {
  if (options_.accept_unseen && !options_.builds_judge) return;
  Stopwatch timed = watch("consequences");
  std::vector<Blocker> found = consequences_of(view_);
  auto behind = std::stable_partition(found.begin(), found.end(), [](const Blocker& item) {
    return item.bearing == Blocker::Bearing::stands_for_all;
  });
  if (behind != found.begin()) mismatches.clear();
  for (Blocker& item : found) {
    // Where references are lost, what may come of it is not known yet.
    if (item.bearing == Blocker::Bearing::stands_for_all) {
      plan_.blockers.push_back(std::move(item));
    } else if (mismatches.empty() || item.bearing != Blocker::Bearing::by_itself) {
      object({item});
    }
  }
}

// References between units that the move makes needed: added if that is wished for, else they stand in the
// way.
void Planner::note_boundaries(const std::vector<Mismatch>& mismatches) {
  if (!mismatches.empty()) return;
  BoundaryReport found = boundary_changes_of(view_);
  tell(found.notices);
  if (options_.link_units) {
    for (Proposal& way : found.links) extra_.push_back(std::move(way));
    if (!found.links.empty()) assemble();
  }
  for (Proposal& way : options_.leave_names ? found.forwards : std::vector<Proposal>()) {
    extra_.push_back(std::move(way));
    // It leads on to what moved, which nothing did from there before.
    std::vector<Mismatch> found_then = verify();
    bool holds = std::all_of(found_then.begin(), found_then.end(), [](const Mismatch& mismatch) {
      return mismatch.kind == Mismatch::Kind::gained;
    });
    if (holds) continue;
    extra_.pop_back();
    verify();
  }
  if (options_.accept_unseen && !options_.builds_judge) return;
  object(found.refusals);
  if (!options_.link_units) object(found.lacks);
}

void Planner::note_routes() {
  if (options_.moved_already) return;
  std::vector<Blocker> changed = route_changes(view_, options_.routes);
  if (options_.allow_routes) {
    for (const Blocker& item : changed) plan_.notices.push_back({"route", item.file, {}, false, item.reason});
  } else if (!changed.empty()) {
    plan_.blockers.insert(plan_.blockers.end(), changed.begin(), changed.end());
    plan_.verified = false;
  }
}

void Planner::tell(const std::vector<Notice>& notices) {
  plan_.notices.insert(plan_.notices.end(), notices.begin(), notices.end());
}

void Planner::object(const std::vector<Blocker>& blockers) {
  std::vector<Blocker>& list = options_.builds_judge ? plan_.accepted : plan_.blockers;
  list.insert(list.end(), blockers.begin(), blockers.end());
}

// Whether readers looked through a file in vain for all names that move; then it holds no path either.
IsFree Planner::holds_no_name() {
  struct Looked {
    InOrder<RelPath> at, passed;
  };
  auto looked = std::make_shared<std::vector<Looked>>();
  for (std::size_t i = 0; i < formats().size(); ++i) {
    const auto* passed = cache_.passed(static_cast<std::uint8_t>(i), is_confined_ ? &focus_ : nullptr);
    if (passed) looked->push_back({InOrder(claimed_[i]), InOrder(*passed)});
  }
  return [this, looked](const RelPath& path) {
    bool in_vain = false;
    for (Looked& list : *looked) {
      bool has_passed = list.passed.has(path);
      in_vain = (list.at.has(path) && !has_passed) || in_vain;
    }
    if (in_vain) return true;
    return cache_.known_verdict(path, tree_.find(path)->size) == std::optional(false);
  };
}

void Planner::note_clashes() {
  for (auto& [object, clash] : new_clashes(view_)) clashes_[object] = std::move(clash);
}

// A word that was put beside others may have become needless by what else was edited: each is tried without.
void Planner::drop_needless() {
  constexpr std::size_t kMostTries = 6;
  std::set<Edit> inserted;
  for (const auto& [problem, attempt] : attempts_.all()) {
    if (!attempt.active || attempt.way().edits.size() != 1) continue;
    const Edit& edit = attempt.way().edits.front();
    if (edit.span.size() == 0) inserted.insert(edit);
  }
  std::size_t tries = 0;
  for (const Edit& edit : inserted) {
    if (++tries > kMostTries || attempts_.all().size() < 2) break;
    std::vector<Attempt*> with;
    for (auto& [problem, attempt] : attempts_.all()) {
      bool has = attempt.active && attempt.way().edits.size() == 1 && attempt.way().edits.front() == edit;
      if (has) with.push_back(&attempt);
    }
    for (Attempt* attempt : with) attempt->active = false;
    bool was_confined = is_confined_;
    bool needless = verify().empty();
    if (was_confined != is_confined_) return;  // the search begins anew
    if (needless) continue;
    for (Attempt* attempt : with) attempt->active = true;
  }
  verify();
}

// Takes away what the move left without use, and lets names follow that are made of paths, as far as that
// holds.
std::vector<Mismatch> Planner::clean_up() {
  drop_needless();
  std::vector<Proposal> unused = leftovers(view_, *rewriter_);
  std::vector<Proposal> names = following_names(view_, options_.moved_already);
  if (unused.empty() && names.empty()) return {};
  bool was_confined = is_confined_;
  extra_.clear();
  constexpr std::size_t kMostNames = 64, kMostLeftovers = 8;
  add_what_holds(names, kMostNames);
  add_what_holds(unused, kMostLeftovers);
  if (is_confined_ != was_confined) extra_.clear();
  return verify();
}

// All at once if that verifies, else one by one.
void Planner::add_what_holds(const std::vector<Proposal>& ways, std::size_t most_tries) {
  if (ways.empty()) return;
  bool was_confined = is_confined_;
  auto holds = [&] { return assemble() && verify().empty(); };
  std::vector<Proposal> before = extra_;
  extra_.insert(extra_.end(), ways.begin(), ways.end());
  if (holds() || is_confined_ != was_confined) return;
  extra_ = std::move(before);
  for (std::size_t i = 0; i < std::min(ways.size(), most_tries) && is_confined_ == was_confined; ++i) {
    extra_.push_back(ways[i]);
    if (!holds()) extra_.pop_back();
  }
}

// What a build made is read for what it tells, and not edited.
void Planner::set_derived_apart() {
  for (auto at = plan_.edits.begin(); at != plan_.edits.end();) {
    const Entry* entry = tree_.find(at->first);
    if (!entry || !entry->ignored || at->second.empty()) {
      ++at;
      continue;
    }
    plan_.notices.push_back({"generated",
                             at->first,
                             {},
                             false,
                             "was made by a build and names what moves; the next build makes it anew"});
    plan_.derived[at->first] = std::move(at->second);
    at = plan_.edits.erase(at);
  }
}

void Planner::list_edits() {
  std::set<std::pair<RelPath, Span>> likely, certain;
  for (const auto& [problem, attempt] : attempts_.all()) {
    if (!attempt.active) continue;
    for (const Edit& edit : attempt.way().edits)
      (attempt.likely ? likely : certain).emplace(edit.file, edit.span);
    if (!attempt.way().remark.empty()) {
      const Edit& edit = attempt.way().edits.front();
      plan_.notices.push_back({"remark", edit.file, edit.span, true, attempt.way().remark});
    }
  }
  yc::list_edits(
      tree_,
      [&](const RelPath& file, const Span& span) {
        return likely.contains({file, span}) && !certain.contains({file, span});
      },
      plan_);
}

// Mentions are rewritten if that is wished for. Those that are left may be more than prose.
void Planner::note_mentions(std::vector<Mention>& mentions) {
  if (!plan_.verified) return;
  if (options_.rewrite_mentions) rewrite_mentions(mentions);
  if (options_.moved_already) return;
  raise(unread_mentions(mentions, claimed_));
  raise(unread_neighbours(tree_, plan_.moves, claimed_));
  plan_.verified = plan_.blockers.empty();
}

// Edits for mentions, all or none: what reads as prose here may still mean something to a reader.
void Planner::rewrite_mentions(std::vector<Mention>& mentions) {
  Proposal way;
  for (const Mention& mention : mentions) {
    RelPath now = plan_.moves.map_file(mention.named);
    if (tree_.is_folder(mention.named)) now = plan_.moves.map_folder(mention.named).value_or(mention.named);
    if (now != mention.named) way.edits.push_back({mention.file, mention.span, now.str()});
  }
  if (way.edits.empty()) return;
  extra_.push_back(std::move(way));
  if (verify().empty()) {
    mentions.clear();
  } else {
    extra_.pop_back();
    verify();
  }
}

}  // namespace yc
