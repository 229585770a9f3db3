// Plans on small trees in memory, told in lines.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "plan/plan.h"

namespace yc::test {

using TreeFiles = std::vector<std::pair<std::string, std::string>>;
using TreeMoves = std::vector<std::pair<std::string, std::string>>;

RelPath at(const std::string& path);  // of a path in normal form
Plan planned(const TreeFiles& files, const TreeMoves& moves, const PlanOptions& options = {});
// "file: before -> after", in order; likely ones end in " ?". The plan must be verified.
std::vector<std::string> edits(const Plan& plan);
// "id file" of what stands in the way. The plan must not be verified.
std::vector<std::string> reasons(const Plan& plan);
// "id file message" of the notices.
std::vector<std::string> told(const Plan& plan);

// One line of a table: a tree, what moves in it, and all edits that follow.
struct PlanCase {
  std::string what;
  TreeFiles files;
  TreeMoves moves;
  std::vector<std::string> edits;
};
void expect_edits(const std::vector<PlanCase>& cases);

// "file reason" of what stands in the way, if anything does.
std::vector<std::string> in_the_way(const Plan& plan);
// The tree as a plan leaves it that moves nothing: what stays in its order, then what is made.
TreeFiles carried_out(const TreeFiles& files, const Plan& plan);

}  // namespace yc::test
