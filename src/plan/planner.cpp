#include "plan/planner.h"

#include <fmt/format.h>

#include <algorithm>
#include <future>
#include <set>

#include "base/hash.h"
#include "plan/mentions.h"
#include "plan/unseen.h"

namespace yc {

namespace {

constexpr std::size_t kMostRounds = 40;

}  // namespace

namespace {

Focus focus_of(const MoveSet& moves) {
  Focus out;
  for (const Move& move : moves.files()) {
    for (const RelPath& path : {move.from, move.to}) {
      out.files.insert(path);
      out.names.emplace(path.name());
    }
  }
  for (const auto& [folder, image] : moves.folders()) {
    if (image && *image == folder) continue;
    out.names.emplace(folder.name());
    if (image) out.names.emplace(image->name());
  }
  return out;
}

}  // namespace

Plan make_plan(const TreeReader& tree, MoveSet moves, const PlanOptions& options) {
  auto planner = std::make_shared<Planner>(tree, std::move(moves), options);
  Plan plan = planner->run();
  plan.workings = std::move(planner);
  return plan;
}

Planner::Planner(const TreeReader& tree, MoveSet moves, PlanOptions options)
    : tree_(tree),
      options_(std::move(options)),
      plan_{std::move(moves), {}, {}, {}, {}, {}, 0, 0, 0, false, nullptr},
      overlay_(tree, plan_.moves) {}

Plan Planner::run() {
  for (std::size_t i = 0; i < formats().size(); ++i)
    format_at(static_cast<std::uint8_t>(i)).prepare(tree_, cache_, static_cast<std::uint8_t>(i));
  focus_ = focus_of(plan_.moves);
  read_both();
  auto mentions = std::async(std::launch::async, [&] { return find_mentions(tree_, old_, plan_.moves); });
  plan_.references_read = old_.references.size();
  respeller_ = std::make_unique<Respeller>(tree_, overlay_, old_, plan_.moves, options_.include_order);
  check_holes();
  std::vector<Mismatch> mismatches;
  for (plan_.rounds = 1; plan_.rounds <= kMostRounds; ++plan_.rounds) {
    mismatches = verify();
    explain_round(mismatches);
    if (mismatches.empty()) {
      bool was_confined = is_confined_;
      mismatches = clean_up();
      if (was_confined == is_confined_) break;  // else the search begins anew, with everything in sight
    }
    if (!respond(mismatches)) break;
  }
  if (mismatches.empty()) {
    plan_.verified = plan_.unsettled.empty();
  } else {
    report(mismatches);
  }
  list_edits();
  add_notices(mentions.get());
  return std::move(plan_);
}

// The two trees are read side by side: the planned one, still without edits, is wanted in the first round
// anyway.
void Planner::read_both() {
  auto changed = [](const RelPath&) { return false; };
  const Focus* focus = is_confined_ ? &focus_ : nullptr;
  auto old =
      std::async(std::launch::async, [&] { return GraphReader().read(tree_, cache_, changed, focus); });
  // In this thread, whose memory will serve for the next reading too.
  new_ = reader_.read(overlay_, cache_, changed, focus);
  old_ = old.get();
  is_fresh_ = true;
}

// Puts the edits of all active ways together. A way that clashes with one already in gives place to its next.
bool Planner::assemble() {
  bool whole = true;
  plan_.edits.clear();
  auto add_all = [&](const Way& way) {
    EditMap trial;
    for (const Edit& edit : way.edits) {
      auto [at, fresh] = trial.emplace(edit.file, FileEdits());
      if (fresh) {
        if (auto known = plan_.edits.find(edit.file); known != plan_.edits.end()) at->second = known->second;
      }
      if (!at->second.add(edit.span, edit.text)) return false;
    }
    for (auto& [file, edits] : trial) plan_.edits[file] = std::move(edits);
    return true;
  };
  for (auto& [problem, attempt] : attempts_) {
    while (attempt.active && !add_all(attempt.ways[attempt.next])) {
      ++attempt.next;
      attempt.active = attempt.next < attempt.ways.size();
      whole = false;
    }
  }
  for (const Way& way : extra_) whole = add_all(way) && whole;
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
  std::vector<Mismatch> found = compare_graphs(tree_, old_, new_, plan_.moves, plan_.edits);
  // Where a unit's search roots are others than before, any include may lead elsewhere: everything is looked
  // at.
  if (found.empty() && is_confined_ &&
      !same_search_roots(tree_, overlay_, old_, new_, plan_.moves, plan_.edits))
    return widen();
  last_found_ = found;
  return found;
}

std::vector<Mismatch> Planner::widen() {
  is_confined_ = false;
  last_found_.reset();
  plan_.edits.clear();
  overlay_.set_edits(nullptr);
  old_ = GraphReader().read(tree_, cache_, [](const RelPath&) { return false; });
  // References have other numbers now, so what was tried for them is tried anew.
  respeller_ = std::make_unique<Respeller>(tree_, overlay_, old_, plan_.moves, options_.include_order);
  attempts_.clear();
  return verify();
}

bool Planner::advance(const std::string& problem, const std::function<std::vector<Way>()>& ways,
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

bool Planner::respond(const std::vector<Mismatch>& mismatches) {
  bool changed = false;
  advanced_.clear();
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind == Mismatch::Kind::gained) changed = respond_to_own_gain(mismatch) || changed;
    bool renamed = mismatch.kind == Mismatch::Kind::lost && mismatch.target.kind == Target::Kind::name;
    if (renamed)
      changed = blame_edits_of(old_.references[static_cast<std::size_t>(mismatch.reference)]) || changed;
  }
  if (changed) return true;
  std::set<std::int32_t> seen;
  std::vector<const Mismatch*> folders;
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind == Mismatch::Kind::lost && seen.insert(mismatch.reference).second) {
      changed = respond_to_lost(mismatch) || changed;
    }
    if (mismatch.kind == Mismatch::Kind::folder_missing) folders.push_back(&mismatch);
  }
  if (changed) anticipate(mismatches);
  // What was gained may only be the shadow of what was lost, so it is looked at once nothing else moves.
  if (changed) return true;
  if (!folders.empty()) changed = respond_to_folders(folders);
  if (changed) return true;
  std::set<RelPath> gained;
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind == Mismatch::Kind::gained && gained.insert(mismatch.now).second) {
      changed = respond_to_drift(mismatch) || changed;
    }
  }
  return changed;
}

// Includes of a source that its unit has lost for now: those whose text leads nowhere any more will be lost
// once the unit has it again.
void Planner::anticipate(const std::vector<Mismatch>& mismatches) {
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind != Mismatch::Kind::unreached) continue;
    std::string problem = fmt::format("ref {}", mismatch.reference);
    if (attempts_.contains(problem)) continue;
    std::vector<Way> ways = respeller_->ways(mismatch.reference, mismatch.target, {});
    if (ways.empty()) continue;
    bool likely =
        old_.references[static_cast<std::size_t>(mismatch.reference)].certainty == Certainty::likely;
    attempts_.emplace(problem, Attempt{std::move(ways), 0, true, likely});
  }
}

bool Planner::respond_to_lost(const Mismatch& mismatch) {
  const Reference& reference = old_.references[static_cast<std::size_t>(mismatch.reference)];
  bool likely = reference.certainty == Certainty::likely;
  bool changed = false;
  // A list that a pattern fills is mended at the pattern; what that does not mend, at the place itself.
  bool from_pattern =
      reference.role != Role::include && !reference.is_pattern &&
      std::any_of(reference.text.pieces().begin(), reference.text.pieces().end(), [](const Piece& piece) {
        return piece.nature == Piece::Nature::literal && !piece.has_origin();
      });
  if (from_pattern) {
    for (std::int32_t pattern : respeller_->patterns_of(mismatch.target.path)) {
      std::string problem = fmt::format("pattern {}", pattern);
      bool fresh = !attempts_.contains(problem);
      changed = advance(
                    problem, [&] { return respeller_->pattern_ways(pattern); }, false) ||
                changed;
      changed = changed || (!fresh && attempts_[problem].active && advanced_.contains(problem));
    }
    if (changed) return true;
  }
  std::int32_t bearer = respeller_->bearer(mismatch.reference, mismatch.target);
  Target target =
      bearer == mismatch.reference ? mismatch.target : Target{Target::Kind::tree, mismatch.target.path, {}};
  return advance(
      fmt::format("ref {}", bearer), [&] { return respeller_->ways(bearer, target, mismatch.now); }, likely);
}

// A gain because a word that takes the file out of a list must follow first, or because the plan's own text
// brings it.
bool Planner::respond_to_own_gain(const Mismatch& mismatch) {
  RelPath old_path = plan_.moves.unmap_file(mismatch.now);
  bool changed = false;
  for (std::int32_t index : respeller_->excluders_of(old_path)) {
    Target target{Target::Kind::tree, old_path, {}};
    changed = advance(
                  fmt::format("ref {}", index), [&] { return respeller_->ways(index, target, {}); }, false) ||
              changed;
  }
  return changed || blame_own_edit(mismatch);
}

// A file that drifted into the reach of a pattern is kept out of its list.
bool Planner::respond_to_drift(const Mismatch& mismatch) {
  return advance(
      "gain " + mismatch.now.str(), [&] { return respeller_->exclusions(mismatch.now); }, false);
}

// A gain through text that the plan itself wrote is the fault of the way that wrote it; that one gives place
// to its next.
bool Planner::blame_own_edit(const Mismatch& mismatch) {
  if (mismatch.new_reference < 0) return false;
  bool changed = false;
  for (const Piece& piece : new_.references[static_cast<std::size_t>(mismatch.new_reference)].text.pieces()) {
    if (!piece.has_origin()) continue;
    RelPath file = plan_.moves.unmap_file(new_.files.path(piece.file));
    auto edits = plan_.edits.find(file);
    const FileEdits::Item* item =
        edits == plan_.edits.end() ? nullptr : edits->second.bringer(piece.span.begin);
    if (!item) continue;
    changed = blame(file, item->span) || changed;
  }
  return changed;
}

// A name that is lost was changed by an edit made for a path.
bool Planner::blame_edits_of(const Reference& reference) {
  bool changed = false;
  for (const Piece& piece : reference.text.pieces()) {
    if (piece.has_origin()) changed = blame(old_.files.path(piece.file), piece.span) || changed;
  }
  return changed;
}

// The ways that edit these bytes give place to their next ones.
bool Planner::blame(const RelPath& file, const Span& span) {
  bool changed = false;
  for (auto& [problem, attempt] : attempts_) {
    if (!attempt.active) continue;
    bool guilty = std::any_of(attempt.ways[attempt.next].edits.begin(),
                              attempt.ways[attempt.next].edits.end(), [&](const Edit& edit) {
                                bool meets = edit.span == span ||
                                             (edit.span.begin < span.end && span.begin < edit.span.end);
                                return edit.file == file && meets;
                              });
    if (guilty)
      changed = advance(
                    problem, [] { return std::vector<Way>(); }, false) ||
                changed;
  }
  return changed;
}

bool Planner::respond_to_folders(const std::vector<const Mismatch*>& mismatches) {
  std::map<RelPath, std::vector<const Reference*>> by_script;
  for (const Mismatch* mismatch : mismatches) {
    const Reference& product = new_.references[static_cast<std::size_t>(mismatch->new_reference)];
    if (product.base.anchor != kNoFile) by_script[new_.files.path(product.base.anchor)].push_back(&product);
  }
  bool changed = false;
  for (const auto& [script, products] : by_script) {
    RelPath old_script = plan_.moves.unmap_file(script);
    auto bytes = tree_.read(old_script);
    if (!bytes) continue;
    changed = advance(
                  "folders " + script.str(),
                  [&] {
                    return format_at(products.front()->format).provide_folders(old_script, **bytes, products);
                  },
                  false) ||
              changed;
  }
  return changed;
}

// A word that was put beside others may have become needless by what else was edited: each is tried without.
void Planner::drop_needless() {
  constexpr std::size_t kMostTries = 6;
  std::set<Edit> inserted;
  for (const auto& [problem, attempt] : attempts_) {
    if (!attempt.active || attempt.ways[attempt.next].edits.size() != 1) continue;
    const Edit& edit = attempt.ways[attempt.next].edits.front();
    if (edit.span.size() == 0) inserted.insert(edit);
  }
  std::size_t tries = 0;
  for (const Edit& edit : inserted) {
    if (++tries > kMostTries || attempts_.size() < 2) break;
    std::vector<Attempt*> with;
    for (auto& [problem, attempt] : attempts_) {
      bool has = attempt.active && attempt.ways[attempt.next].edits.size() == 1 &&
                 attempt.ways[attempt.next].edits.front() == edit;
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

// Takes away what the move left without use: search roots whose folder is gone, patterns that match nothing
// any more, detours through a folder that a file has come back to.
std::vector<Mismatch> Planner::clean_up() {
  drop_needless();
  std::vector<Way> wanted;
  auto is_edited = [&](const Way& way) {
    auto edits = plan_.edits.find(way.edits.front().file);
    if (edits == plan_.edits.end()) return false;
    return std::any_of(edits->second.items().begin(), edits->second.items().end(),
                       [&](const auto& item) { return item.span == way.edits.front().span; });
  };
  for (const Reference& reference : old_.references) {
    if (auto way = respeller_->without_detour(reference); way && !is_edited(*way)) {
      if (std::none_of(wanted.begin(), wanted.end(),
                       [&](const Way& other) { return other.edits == way->edits; }))
        wanted.push_back(std::move(*way));
    }
    bool gone = false;
    if (reference.role == Role::search_root && !reference.targets.empty()) {
      bool is_edited_word = std::any_of(
          reference.text.pieces().begin(), reference.text.pieces().end(), [&](const Piece& piece) {
            return piece.has_origin() && is_edited({{Edit{old_.files.path(piece.file), piece.span, ""}}, ""});
          });
      gone = !is_edited_word && respeller_->leads_nowhere(reference);
    } else if (reference.is_pattern && !reference.percent && reference.in_list &&
               !reference.targets.empty()) {
      gone = respeller_->is_emptied(reference);
    }
    if (!gone) continue;
    if (auto way = respeller_->removal(reference)) {
      bool known = std::any_of(wanted.begin(), wanted.end(),
                               [&](const Way& other) { return other.edits == way->edits; });
      if (!known) wanted.push_back(std::move(*way));
    }
  }
  if (wanted.empty()) return {};
  bool was_confined = is_confined_;
  // All at once if that verifies, else one by one.
  auto holds = [&] { return assemble() && verify().empty(); };
  extra_ = wanted;
  if (!holds() && is_confined_ == was_confined) {
    extra_.clear();
    for (std::size_t i = 0; i < wanted.size() && i < 8 && is_confined_ == was_confined; ++i) {
      extra_.push_back(wanted[i]);
      if (!holds()) extra_.pop_back();
    }
  }
  if (is_confined_ != was_confined) extra_.clear();
  return verify();
}

void Planner::explain_round(const std::vector<Mismatch>& mismatches) const {
  if (!options_.explain) return;
  options_.explain(fmt::format("round {}: {} edits in force, {} differences", plan_.rounds,
                               plan_.edits.size(), mismatches.size()));
  for (const auto& [problem, attempt] : attempts_) {
    options_.explain(fmt::format("  {}: way {} of {}{}", problem, attempt.next + 1, attempt.ways.size(),
                                 attempt.active ? "" : ", given up"));
    if (!attempt.active) continue;
    for (const Edit& edit : attempt.ways[attempt.next].edits) {
      options_.explain(fmt::format("    {} bytes {}-{}: \"{}\"", edit.file.str(), edit.span.begin,
                                   edit.span.end, edit.text));
    }
  }
  for (const Mismatch& mismatch : mismatches) {
    Unsettled item = describe(mismatch);
    options_.explain(fmt::format("  {} (ref {}) in {} at byte {}: \"{}\" {}", item.id, mismatch.reference,
                                 item.file.str(), item.span.begin, item.text, item.reason));
  }
}

void Planner::check_holes() {
  if (options_.accept_unseen) return;
  plan_.unsettled = unseen_references(old_, plan_.moves);
}

Unsettled Planner::describe(const Mismatch& mismatch) const {
  Unsettled out;
  const Reference* reference =
      mismatch.reference >= 0 ? &old_.references[static_cast<std::size_t>(mismatch.reference)] : nullptr;
  if (reference) {
    Standing place = standing_of(*reference);
    if (place.file != kNoFile) {
      out.file = old_.files.path(place.file);
      out.span = place.span;
      out.has_place = true;
    }
    out.text = reference->text.text();
  }
  const std::string old_path = mismatch.target.path.str();
  switch (mismatch.kind) {
    case Mismatch::Kind::unreached:
      out.id = "unreached";
      out.reason = "stands in a file that its build unit would no longer compile";
      out.next = "look at the lists and patterns that name the file";
      break;
    case Mismatch::Kind::lost: {
      bool is_folder = tree_.is_folder(mismatch.target.path);
      bool scattered = is_folder && mismatch.target.kind == Target::Kind::tree &&
                       !plan_.moves.map_folder(mismatch.target.path);
      out.id = scattered ? "scattered" : "lost";
      if (mismatch.target.kind == Target::Kind::name) {
        out.id = "renamed";
        out.reason = fmt::format("would rename {}, which is more than a move", old_path);
        out.next =
            "spell the path and the name apart in this place (for a compiler call: with -o), then move again";
      } else if (scattered) {
        out.reason = fmt::format("names the folder {}, whose files would go to different places", old_path);
        out.next = "move the folder whole, or leave one file in it";
      } else {
        std::string what = old_path.empty() ? "what a rule makes" : old_path;
        RelPath new_path = plan_.moves.map_file(mismatch.target.path);
        std::string new_name(new_path.name());
        std::uint8_t format = reference ? reference->format : 0;
        if (!old_path.empty() && !format_at(format).write(new_name, 0)) {
          out.reason = fmt::format("leads to {}, and {} has no way to write the name \"{}\" here", what,
                                   format_at(format).name(), new_name);
          out.next = "choose a name without blanks and special characters";
        } else {
          out.reason = fmt::format("leads to {} and could not be made to follow", what);
          out.next = "edit this place so that it names the file by itself, then move again";
        }
      }
      break;
    }
    case Mismatch::Kind::gained:
      out.id = "drift";
      out.reason = fmt::format("would also take in {}, which changes what is built", mismatch.now.str());
      out.next = "move it to a folder that no pattern of another unit reaches";
      break;
    case Mismatch::Kind::folder_missing:
      out.id = "folder";
      out.reason = fmt::format("{} would be made in a folder that nothing makes",
                               new_.references[static_cast<std::size_t>(mismatch.new_reference)].text.text());
      out.next = "let the rule make its folder (mkdir -p $(@D)), then move again";
      break;
    case Mismatch::Kind::compiled:
      out.id = "twice";
      out.file = mismatch.target.path;
      out.text = old_path;
      out.reason = "would be compiled by more or fewer build units than now";
      out.next = "look at the lists and patterns that name it";
      break;
    case Mismatch::Kind::captured:
      out.id = "captured";
      out.reason =
          fmt::format("leads outside the tree now and would find {} after the move", mismatch.now.str());
      out.next = "give the moved file another name or folder";
      break;
  }
  return out;
}

void Planner::report(const std::vector<Mismatch>& mismatches) {
  std::set<std::tuple<std::string, RelPath, std::uint32_t, std::string>> seen;
  bool any_lost = std::any_of(mismatches.begin(), mismatches.end(),
                              [](const Mismatch& m) { return m.kind == Mismatch::Kind::lost; });
  for (const Mismatch& mismatch : mismatches) {
    // Where something is lost, what is gained or compiled otherwise is its shadow.
    if (any_lost && (mismatch.kind == Mismatch::Kind::compiled ||
                     mismatch.kind == Mismatch::Kind::unreached || mismatch.kind == Mismatch::Kind::gained))
      continue;
    bool is_lost_root =
        mismatch.kind == Mismatch::Kind::lost && mismatch.reference >= 0 &&
        old_.references[static_cast<std::size_t>(mismatch.reference)].role == Role::search_root;
    if (is_lost_root && !plan_.unsettled.empty() && overlay_.is_folder(mismatch.target.path)) continue;
    Unsettled item = describe(mismatch);
    if (seen.emplace(item.id, item.file, item.span.begin, item.reason).second)
      plan_.unsettled.push_back(std::move(item));
  }
  if (plan_.unsettled.empty() && !mismatches.empty()) plan_.unsettled.push_back(describe(mismatches.front()));
}

void Planner::list_edits() {
  std::set<std::pair<RelPath, Span>> likely, certain;
  for (const auto& [problem, attempt] : attempts_) {
    if (!attempt.active) continue;
    for (const Edit& edit : attempt.ways[attempt.next].edits)
      (attempt.likely ? likely : certain).emplace(edit.file, edit.span);
    if (!attempt.ways[attempt.next].remark.empty()) {
      const Edit& edit = attempt.ways[attempt.next].edits.front();
      plan_.notices.push_back({"remark", edit.file, edit.span, true, attempt.ways[attempt.next].remark});
    }
  }
  for (const auto& [file, edits] : plan_.edits) {
    auto bytes = tree_.read(file);
    if (!bytes) continue;
    plan_.hashes[file] = content_hash(**bytes);
    for (const FileEdits::Item& item : edits.items()) {
      PlannedEdit edit;
      edit.file = file;
      edit.span = item.span;
      edit.before = (*bytes)->substr(item.span.begin, item.span.size());
      edit.after = item.text;
      edit.likely = likely.contains({file, item.span}) && !certain.contains({file, item.span});
      plan_.edit_list.push_back(std::move(edit));
    }
  }
  std::sort(plan_.edit_list.begin(), plan_.edit_list.end(), [](const PlannedEdit& a, const PlannedEdit& b) {
    return std::tie(a.file, a.span) < std::tie(b.file, b.span);
  });
}

void Planner::add_notices(std::vector<Notice> mentions) {
  for (const RelPath& path : plan_.moves.left_behind()) {
    plan_.notices.push_back(
        {"left-behind", path, {}, false, "is ignored or protected and stays where it is"});
  }
  for (const Notice& notice : old_.notices) plan_.notices.push_back(notice);
  for (Notice& notice : mentions) plan_.notices.push_back(std::move(notice));
  std::set<RelPath> moved;
  for (const Move& move : plan_.moves.files()) moved.insert(move.from);
  for (const Reference& reference : old_.references) {
    bool touched = std::any_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
      return target.kind == Target::Kind::tree && moved.contains(target.path);
    });
    if (touched) ++plan_.references_kept;
  }
}

}  // namespace yc
