// Folders that get units of their own, join others, and are taken back.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "plan/carve.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::HasSubstr;

TreeFiles office() {
  return {{"Core/Core.asmdef", "{\n  \"name\": \"Salt.Core\",\n  \"references\": []\n}\n"},
          {"Core/Level.cs", "namespace Salt.Core { public class Level { } }\n"},
          {"Core/Tides/Tide.cs", "namespace Salt.Core { public class Tide { Level l; } }\n"},
          {"Desk/Desk.asmdef", "{\n  \"name\": \"Salt.Desk\",\n  \"references\": [\"Salt.Core\"]\n}\n"},
          {"Desk/Members.cs", "using Salt.Core;\nnamespace Salt.Desk { class Members { Tide t; } }\n"}};
}

std::vector<std::string> made(const Plan& plan) {
  std::vector<std::string> out;
  for (const auto& [path, bytes] : plan.changes.made) out.push_back(path.str() + ":\n" + bytes);
  for (const RelPath& path : plan.changes.dropped) out.push_back("no " + path.str());
  return out;
}

TEST(UnitMaking, a_folder_gets_an_assembly_with_the_references_it_and_its_users_need) {
  MemoryTree tree = tree_of(office());
  auto plan = carve(tree, at("Core/Tides"));
  ASSERT_TRUE(plan) << plan.error().message;
  EXPECT_THAT(made(*plan),
              ElementsAre("Core/Tides/Tides.asmdef:\n{\n  \"name\": \"Salt.Core.Tides\",\n  \"references\": "
                          "[\"Salt.Core\"]\n}\n"));
  EXPECT_THAT(edits(*plan), ElementsAre("Desk/Desk.asmdef:  -> , \"Salt.Core.Tides\""));
}

TEST(UnitMaking, a_circle_is_refused_with_its_chain) {
  TreeFiles files = office();
  files[1].second = "namespace Salt.Core { public class Level { Tide t; } }\n";
  auto plan = carve(tree_of(files), at("Core/Tides"));
  ASSERT_TRUE(plan);
  ASSERT_FALSE(plan->verified);
  EXPECT_THAT(plan->blockers.front().reason, HasSubstr("Salt.Core.Tides -> Salt.Core -> Salt.Core.Tides"));
}

TEST(UnitMaking, what_belongs_to_no_assembly_cannot_be_referred_to) {
  TreeFiles files = office();
  files.push_back({"Loose/Pier.cs", "namespace Salt.Core { public class Pier { } }\n"});
  files[2].second = "namespace Salt.Core { public class Tide { Pier p; } }\n";
  auto plan = carve(tree_of(files), at("Core/Tides"));
  ASSERT_TRUE(plan);
  EXPECT_FALSE(plan->verified);
  EXPECT_THAT(plan->blockers.front().reason, HasSubstr("in no assembly"));
}

TEST(UnitMaking, a_folder_joins_another_assembly) {
  TreeFiles files = office();
  files.push_back({"Tools/Chart.cs", "using Salt.Core;\nnamespace Salt.Desk { class Chart { Level l; } }\n"});
  auto plan = join(tree_of(files), at("Tools"), "Salt.Desk");
  ASSERT_TRUE(plan) << plan.error().message;
  EXPECT_TRUE(plan->verified);
  EXPECT_THAT(made(*plan), ElementsAre("Tools/Tools.asmref:\n{\n    \"reference\": \"Salt.Desk\"\n}\n"));
  EXPECT_FALSE(join(tree_of(files), at("Tools"), "Salt.Nobody"));
}

TEST(UnitMaking, folding_hands_its_users_to_the_outer_one) {
  TreeFiles files = office();
  files[3].second = "{\n  \"name\": \"Salt.Desk\",\n  \"references\": [\"Salt.Core.Tides\"]\n}\n";
  files.push_back(
      {"Core/Tides/Tides.asmdef", "{ \"name\": \"Salt.Core.Tides\", \"references\": [\"Salt.Core\"] }\n"});
  auto plan = fold(tree_of(files), at("Core/Tides"));
  ASSERT_TRUE(plan) << plan.error().message;
  EXPECT_THAT(made(*plan), ElementsAre("no Core/Tides/Tides.asmdef"));
  EXPECT_THAT(edits(*plan), ElementsAre("Desk/Desk.asmdef: \"Salt.Core.Tides\" -> \"Salt.Core\""));
}

}  // namespace
}  // namespace yc::test
