// Indexes that hand on what moves into their folders.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "plan/indexes.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;

// "path: text" of what is made, "path + text" of what is added.
std::vector<std::string> indexes(const TreeFiles& files, const TreeMoves& moves) {
  MemoryTree tree = tree_of(files);
  std::vector<Move> pairs;
  for (const auto& [from, to] : moves) pairs.push_back({at(from), at(to)});
  auto set = MoveSet::make(tree, pairs);
  EXPECT_TRUE(set);
  Indexes found = leave_indexes(tree, *set);
  std::vector<std::string> out;
  for (const auto& [path, text] : found.changes.made) out.push_back(path.str() + ": " + text);
  for (const Edit& edit : found.edits) out.push_back(edit.file.str() + " + " + edit.text);
  return out;
}

TEST(Indexes, are_made_where_a_module_goes_to_a_folder_of_its_own_name) {
  EXPECT_THAT(indexes({{"src/tide.ts", "export const tide = 1;\n"}}, {{"src/tide.ts", "src/tide/tide.ts"}}),
              ElementsAre("src/tide/index.ts: export * from './tide';\n"));
  EXPECT_THAT(indexes({{"src/tide.ts", "export const tide = 1;\n"}}, {{"src/tide.ts", "src/lib/tide.ts"}}),
              ElementsAre());
}

TEST(Indexes, get_a_line_where_they_hand_on_and_do_nothing_else) {
  TreeFiles files = {{"src/tide.ts", "export const tide = 1;\n"},
                     {"src/charts/index.ts", "// All charts.\nexport * from './draw';\n"},
                     {"src/charts/draw.ts", "export const draw = 1;\n"}};
  EXPECT_THAT(indexes(files, {{"src/tide.ts", "src/charts/tide.ts"}}),
              ElementsAre("src/charts/index.ts + export * from './tide';\n"));
  files[1].second = "export * from './draw'";
  EXPECT_THAT(indexes(files, {{"src/tide.ts", "src/charts/tide.ts"}}),
              ElementsAre("src/charts/index.ts + \nexport * from './tide';\n"));
  files[1].second = "export * from './draw';\nconsole.log(1);\n";
  EXPECT_THAT(indexes(files, {{"src/tide.ts", "src/charts/tide.ts"}}), ElementsAre());
}

}  // namespace
}  // namespace yc::test
