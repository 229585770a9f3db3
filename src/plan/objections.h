// What stands in the way of a move although every reference can follow, or where it cannot be known that all
// do.
#pragma once

#include <vector>

#include "formats/capabilities/consequences.h"
#include "formats/capabilities/routes.h"
#include "plan/explained.h"
#include "plan/plan_view.h"

namespace yc {

// What formats say would come of the move.
std::vector<Blocker> consequences_of(const PlanView& view);

// What it means for the references that units have to each other.
BoundaryReport boundary_changes_of(const PlanView& view);

// Routes that it changes: of the folders given, and of those that the project's tools imply.
std::vector<Blocker> route_changes(const PlanView& view, std::vector<RouteFolder> folders);

// What could name something that moves and is not read, or known in part; and what a program is handed in the
// order of names. Texts that could name almost any file are told in `vague`.
std::vector<Blocker> doubts(const PlanView& view, const std::vector<RelPath>& unreadable,
                            std::vector<Notice>& vague);

// Files that are installed with a folder and leave it: told at each list that names such a folder. The
// planned tree is read with all edits.
std::vector<Blocker> uninstalled(const PlanView& view);

// An include that only a guess leads to what moves, and that nothing could make follow.
Blocker guessed_include(const ReferenceGraph& graph, const Reference& reference, const RelPath& target,
                        bool is_compiled);

// A file that moves, and that a build was seen to read, nobody knows why.
Blocker unexplained_read(const UnexplainedRead& read);

}  // namespace yc
