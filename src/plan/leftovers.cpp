#include "plan/leftovers.h"

#include <algorithm>
#include <set>

#include "formats/capabilities/companions.h"
#include "plan/climbs.h"

namespace yc {

std::vector<Proposal> leftovers(const PlanView& view, const ReferenceRewriter& rewriter) {
  std::vector<Proposal> wanted;
  std::set<std::vector<Edit>> known;
  auto want = [&](Proposal way) {
    if (known.insert(way.edits).second) wanted.push_back(std::move(way));
  };
  auto is_edited_at = [&](const RelPath& file, const Span& span) {
    auto edits = view.edits.find(file);
    if (edits == view.edits.end()) return false;
    const auto& items = edits->second.items();  // sorted by their spans
    auto at =
        std::partition_point(items.begin(), items.end(), [&](const auto& item) { return item.span < span; });
    return at != items.end() && at->span == span;
  };
  auto is_edited = [&](const Proposal& way) {
    return is_edited_at(way.edits.front().file, way.edits.front().span);
  };
  for (const Reference& reference : view.old.references) {
    if (auto way = rewriter.without_detour(reference); way && !is_edited(*way)) want(std::move(*way));
    if (auto way = straight_way(view, reference); way && !is_edited(*way)) want(std::move(*way));
    bool gone = false;
    if (reference.role == Role::search_root && !reference.targets.empty()) {
      bool is_edited_word = std::any_of(
          reference.text.pieces().begin(), reference.text.pieces().end(), [&](const Piece& piece) {
            return piece.has_origin() && is_edited_at(view.old.files.path(piece.file), piece.span);
          });
      gone = !is_edited_word && rewriter.leads_nowhere(reference);
    } else if (reference.is_pattern() && !reference.is_percent() && reference.in_list &&
               !reference.targets.empty()) {
      gone = rewriter.is_emptied(reference);
    } else if (reference.role == Role::listed && reference.in_list && reference.targets.size() == 1 &&
               reference.targets.front().kind == Target::Kind::tree) {
      // A pattern of the same list has taken it in.
      gone = rewriter.leads_nowhere(reference);
    }
    if (!gone) continue;
    if (auto way = rewriter.removal(reference)) want(std::move(*way));
  }
  return wanted;
}

std::vector<Proposal> following_names(const PlanView& view, bool moved_already) {
  std::vector<Proposal> out;
  auto add = [&](std::vector<Proposal> more) {
    std::move(more.begin(), more.end(), std::back_inserter(out));
  };
  for (const auto& format : all_that_offer<FollowingNames>()) {
    ClaimedTree before{view.tree, view.claimed[format.format]};
    if (!moved_already) add(format->follow_names(before, view.moves));
    add(format->list_new_members(before, view.moves));
  }
  return out;
}

}  // namespace yc
