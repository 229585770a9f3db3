#include "support/plans.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"

namespace yc::test {

RelPath at(const std::string& text) {
  return RelPath::from_normal(text);
}

Plan planned(const TreeFiles& files, const TreeMoves& moves, const PlanOptions& options) {
  MemoryTree tree = tree_of(files);
  std::vector<Move> requested;
  for (const auto& [from, to] : moves) requested.push_back({at(from), at(to)});
  auto set = MoveSet::make(tree, requested);
  EXPECT_TRUE(set) << (set ? "" : set.error().message);
  return make_plan(tree, std::move(*set), options);
}

std::vector<std::string> edits(const Plan& plan) {
  EXPECT_TRUE(plan.verified) << (plan.blockers.empty()
                                     ? ""
                                     : plan.blockers[0].file.str() + ": " + plan.blockers[0].text + " " +
                                           plan.blockers[0].reason);
  std::vector<std::string> out;
  for (const PlannedEdit& edit : plan.edit_list)
    out.push_back(edit.file.str() + ": " + edit.before + " -> " + edit.after + (edit.likely ? " ?" : ""));
  return out;
}

std::vector<std::string> reasons(const Plan& plan) {
  EXPECT_FALSE(plan.verified);
  std::vector<std::string> out;
  for (const Blocker& item : plan.blockers) out.push_back(item.id + " " + item.file.str());
  return out;
}

std::vector<std::string> told(const Plan& plan) {
  std::vector<std::string> out;
  for (const Notice& notice : plan.notices)
    out.push_back(notice.id + " " + notice.file.str() + " " + notice.message);
  return out;
}

void expect_edits(const std::vector<PlanCase>& cases) {
  for (const PlanCase& one : cases) {
    SCOPED_TRACE(one.what);
    EXPECT_THAT(edits(planned(one.files, one.moves)), ::testing::ElementsAreArray(one.edits));
  }
}

std::vector<std::string> in_the_way(const Plan& plan) {
  std::vector<std::string> out;
  for (const Blocker& blocker : plan.blockers) out.push_back(blocker.file.str() + " " + blocker.reason);
  return out;
}

TreeFiles carried_out(const TreeFiles& files, const Plan& plan) {
  TreeFiles out;
  for (const auto& [path, bytes] : files) {
    if (plan.changes.dropped.contains(at(path))) continue;
    auto edits = plan.edits.find(at(path));
    out.emplace_back(path, edits == plan.edits.end() ? bytes : edits->second.apply(bytes));
  }
  for (const auto& [path, bytes] : plan.changes.made) out.emplace_back(path.str(), bytes);
  return out;
}

}  // namespace yc::test
