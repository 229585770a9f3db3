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

std::vector<Blocker> uninstalled(const PlanView& view) {
  std::vector<RelPath> leaving;
  if (view.old.installed.empty()) return {};
  for (const Move& move : view.moves.files()) {
    if (is_installed(view.old, move.from) && !is_installed(view.now, move.to)) leaving.push_back(move.from);
  }
  std::vector<Blocker> out;
  for (const Reference& reference : view.old.references) {
    if (leaving.empty() || reference.role != Role::listed) continue;
    for (const Target& target : reference.targets) {
      auto here = [&](const RelPath& path) { return path != target.path && path.is_within(target.path); };
      auto first = std::find_if(leaving.begin(), leaving.end(), here);
      if (target.kind != Target::Kind::tree || first == leaving.end()) continue;
      auto others = std::count_if(leaving.begin(), leaving.end(), here) - 1;
      Standing at = standing_of(reference);
      Blocker item;
      item.id = "uninstalled";
      item.file = view.old.files.path(at.file);
      item.span = at.span;
      item.text = reference.text.text();
      item.reason =
          fmt::format("installs what is in {}, and {}{} would not be installed any more", target.path.str(),
                      first->str(), others > 0 ? fmt::format(" and {} more", others) : "");
      item.next =
          "move it to a place below that folder, add an install rule for it first, or say that it is to go "
          "(--accept-unseen)";
      out.push_back(std::move(item));
      std::erase_if(leaving, here);
    }
  }
  return out;
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

Blocker guessed_include(const ReferenceGraph& graph, const Reference& reference, const RelPath& target,
                        bool is_compiled) {
  Standing at = standing_of(reference);
  std::string text = reference.text.text();
  Blocker out;
  out.id = "unfollowed";
  out.file = graph.files.path(at.file);
  out.span = at.span;
  out.text = text;
  out.reason = fmt::format(
      "{} may mean {}, which moves; {}, so it is not rewritten",
      reference.is_angled() ? "<" + text + ">" : "\"" + text + "\"", target.str(),
      is_compiled ? "no folder that its build script searches holds it" : "nothing here compiles this file");
  out.next =
      "let the project's own build judge (… -- BUILD COMMAND), settle it for good if it means an installed "
      "header (--settle FILE:LINE), or add --accept-unseen to move anyway, unproved";
  return out;
}

}  // namespace yc
