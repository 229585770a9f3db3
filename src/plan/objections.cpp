#include "plan/objections.h"

#include <fmt/format.h>

#include <algorithm>

#include "plan/climbs.h"
#include "plan/printed_order.h"
#include "plan/routes.h"
#include "plan/unread_files.h"
#include "plan/unseen.h"
#include "plan/written_includes.h"

namespace yc {

namespace {

std::pair<TreeView, TreeView> views_for(const PlanView& view, std::uint8_t format) {
  return {TreeView{{view.tree, view.old}, view.claimed[format]},
          TreeView{{view.planned, view.now}, view.claimed_planned[format]}};
}

template <typename Item>
void append(std::vector<Item>& to, std::vector<Item> more) {
  std::move(more.begin(), more.end(), std::back_inserter(to));
}

}  // namespace

std::vector<Blocker> consequences_of(const PlanView& view) {
  std::vector<Blocker> found;
  for (const auto& format : all_that_offer<Consequences>()) {
    auto [before, planned] = views_for(view, format.format);
    append(found, format->consequences(before, planned, view.moves));
  }
  append(found, lost_ways(view));
  return found;
}

BoundaryReport boundary_changes_of(const PlanView& view) {
  BoundaryReport out;
  for (const auto& format : all_that_offer<Boundaries>()) {
    auto [before, planned] = views_for(view, format.format);
    BoundaryReport found = format->boundary_changes(before, planned, view.moves);
    append(out.notices, std::move(found.notices));
    append(out.lacks, std::move(found.lacks));
    append(out.links, std::move(found.links));
    append(out.refusals, std::move(found.refusals));
    append(out.forwards, std::move(found.forwards));
  }
  return out;
}

std::vector<Blocker> route_changes(const PlanView& view, std::vector<RouteFolder> folders) {
  for (const auto& format : all_that_offer<Routes>())
    append(folders, format->route_folders({view.tree, view.claimed[format.format]}));
  return changed_routes(view.moves, folders);
}

std::vector<Blocker> doubts(const PlanView& view, const std::vector<RelPath>& unreadable,
                            std::vector<Notice>& vague) {
  UnseenReferences unseen = unseen_references(view.old, view.moves);
  append(vague, std::move(unseen.vague));
  std::vector<Blocker> found = std::move(unseen.in_the_way);
  append(found, unread_files(view.tree, view.old, view.moves, unreadable));
  append(found, written_includes(view.tree, view.old, view.moves));
  append(found, changed_orders(view.tree, view.old, view.moves, vague));
  return found;
}

Blocker unexplained_read(const UnexplainedRead& read) {
  Blocker out;
  out.id = "unexplained";
  out.file = read.path;
  out.reason = fmt::format("was read by a build, and no reference says why: {}{}", read.command,
                           read.folder.empty() || read.folder == "." ? "" : " (in " + read.folder + ")");
  out.next = "let the build judge: give its command after -- (or --accept-unseen moves it all the same)";
  return out;
}

}  // namespace yc
