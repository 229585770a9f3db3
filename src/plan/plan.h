// A plan: moves, edits and notices, verified against the promise before anyone carries it out.
#pragma once

#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "formats/capabilities/routes.h"
#include "model/blocker.h"
#include "observe/observation.h"
#include "plan/compare.h"
#include "plan/rewriter.h"
#include "plan/settled.h"
#include "tree/overlay_tree.h"

namespace yc {

class FactsCache;
class GraphReader;
class KeptParts;

struct PlanOptions {
  IncludeOrder include_order = kUsualIncludes;
  std::size_t alias_from = kNoRule;  // see RewriteRequest::alias_from
  bool link_units = false;           // add references between units that the move makes needed
  bool accept_unseen =
      false;  // carry out although a text with an unknown part could name something that moves
  // What reading cannot settle is left to builds that are to judge the move: told in Plan::accepted.
  bool builds_judge = false;
  std::vector<Observation> observed;    // builds of the tree as it is
  std::vector<SettledDoubt> settled;    // stand in no move's way
  bool leave_names = false;             // of what moves, for users outside (see BoundaryReport::forwards)
  bool rewrite_mentions = false;        // old paths in prose, comments and unknown formats too
  bool sweep = false;                   // take away what a build left that the move makes stale
  bool moved_already = false;           // see compare_graphs()
  std::vector<RouteFolder> routes;      // beside those that the project's tools imply
  bool allow_routes = false;            // change routes, and tell
  std::shared_ptr<Timings> timings;     // is told what the parts of planning take; may be null
  std::shared_ptr<KeptParts> parts;     // of earlier readings; may be null
  std::shared_ptr<FactsCache> facts;    // of this tree's files, from earlier plans; may be null
  const GraphReader* reader = nullptr;  // that has read this tree as it is, with the same facts; may be null
  // Asked now and then whether the plan is still wanted; if not, what comes is not verified. May be empty.
  std::function<bool()> is_unwanted;
  FileChanges changes;      // files that are made or taken away beside the moves
  std::vector<Edit> edits;  // of files that stay, made whatever else is edited
  std::function<void(const std::string&)>
      explain;  // is told, a line at a time, what was tried and why; may be empty
};

// One edit as a person sees it. Positions are those of the file before the move.
struct PlannedEdit {
  RelPath file;
  Span span;
  std::string before;
  std::string after;
  bool likely = false;  // made for a reference that is only likely one
};

struct Plan {
  MoveSet moves;
  FileChanges changes;
  EditMap edits;
  EditMap derived;  // of files that a build made, which are not carried out: the build makes them anew
  std::unordered_map<RelPath, std::string> hashes;  // content hashes of the edited files as they were read
  std::vector<PlannedEdit> edit_list;               // by file and place
  std::vector<Blocker> blockers;
  std::vector<Blocker> accepted;  // what would be unsettled, had the user not taken it on himself
  std::size_t settled = 0;        // doubts that would be in the way, had a person not settled them before
  std::vector<Notice> notices;
  std::size_t references_read = 0;
  std::size_t references_kept = 0;  // that lead to something that moved, or stand in it, and need no edit
  std::size_t rounds = 0;
  // Not verified, but its edits mend something and break nothing: only where the move was made already (see
  // PlanOptions::moved_already).
  bool in_part = false;
  bool verified = false;
  std::shared_ptr<const void> workings;  // what the plan was made with; costly to take apart
};

// Fills `hashes` and `edit_list` from the edits of a plan.
void list_edits(const TreeReader& tree, const std::function<bool(const RelPath&, const Span&)>& is_likely,
                Plan& plan);

Plan make_plan(const TreeReader& tree, MoveSet moves, const PlanOptions& options);

}  // namespace yc
