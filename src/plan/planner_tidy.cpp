// What a verified plan can do without, and what the move left without use.
#include "formats/capabilities/companions.h"
#include "plan/planner.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

namespace yc {

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
// any more, detours through a folder that a file has come back to. Lets names follow that are made of paths.
std::vector<Mismatch> Planner::clean_up() {
  drop_needless();
  std::vector<Proposal> wanted;
  auto is_edited = [&](const Proposal& way) {
    auto edits = plan_.edits.find(way.edits.front().file);
    if (edits == plan_.edits.end()) return false;
    return std::any_of(edits->second.items().begin(), edits->second.items().end(),
                       [&](const auto& item) { return item.span == way.edits.front().span; });
  };
  for (const Reference& reference : old_.references) {
    if (auto way = respeller_->without_detour(reference); way && !is_edited(*way)) {
      if (std::none_of(wanted.begin(), wanted.end(),
                       [&](const Proposal& other) { return other.edits == way->edits; }))
        wanted.push_back(std::move(*way));
    }
    bool gone = false;
    if (reference.role == Role::search_root && !reference.targets.empty()) {
      bool is_edited_word = std::any_of(
          reference.text.pieces().begin(), reference.text.pieces().end(), [&](const Piece& piece) {
            return piece.has_origin() && is_edited({{Edit{old_.files.path(piece.file), piece.span, ""}}, ""});
          });
      gone = !is_edited_word && respeller_->leads_nowhere(reference);
    } else if (reference.is_pattern() && !reference.is_percent() && reference.in_list &&
               !reference.targets.empty()) {
      gone = respeller_->is_emptied(reference);
    } else if (reference.role == Role::listed && reference.in_list && reference.targets.size() == 1 &&
               reference.targets.front().kind == Target::Kind::tree) {
      // A pattern of the same list has taken it in.
      gone = respeller_->leads_nowhere(reference);
    }
    if (!gone) continue;
    if (auto way = respeller_->removal(reference)) {
      bool known = std::any_of(wanted.begin(), wanted.end(),
                               [&](const Proposal& other) { return other.edits == way->edits; });
      if (!known) wanted.push_back(std::move(*way));
    }
  }
  std::vector<Proposal> names;
  if (!options_.moved_already) {
    for (const auto& format : all_that_offer<FollowingNames>()) {
      std::vector<Proposal> more = format->follow_names({tree_, claimed_[format.format]}, plan_.moves);
      std::move(more.begin(), more.end(), std::back_inserter(names));
    }
  }
  if (wanted.empty() && names.empty()) return {};
  bool was_confined = is_confined_;
  extra_.clear();
  constexpr std::size_t kMostNames = 64, kMostLeftovers = 8;
  add_what_holds(names, kMostNames);
  add_what_holds(wanted, kMostLeftovers);
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

}  // namespace yc
