// Folders of modules that get packages of their own, and are taken back.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "plan/carve.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::HasSubstr;
using ::testing::IsEmpty;

TreeFiles dashboard() {
  return {{"package.json", "{\n  \"name\": \"salt\",\n  \"workspaces\": [\"dash\"]\n}\n"},
          {"dash/package.json",
           "{\n  \"name\": \"@salt/dash\",\n  \"version\": \"1.2.0\",\n  \"type\": \"module\",\n  "
           "\"dependencies\": {\n    \"d3-scale\": \"^4.0.0\",\n    \"lit\": \"3.1.0\"\n  }\n}\n"},
          {"dash/src/charts/axis.js", "import { scale } from 'd3-scale';\nexport const axis = scale;\n"},
          {"dash/src/main.js", "import { axis } from './charts/axis.js';\naxis();\n"}};
}

TEST(PackageCarving, a_folder_gets_what_its_modules_import_and_its_users_depend_on_it) {
  auto plan = carve(tree_of(dashboard()), at("dash/src/charts"));
  ASSERT_TRUE(plan) << plan.error().message;
  EXPECT_THAT(in_the_way(*plan), IsEmpty());
  TreeFiles after = carried_out(dashboard(), *plan);
  EXPECT_EQ(after[4].first, "dash/src/charts/package.json");
  EXPECT_EQ(after[4].second,
            "{\n  \"name\": \"@salt/charts\",\n  \"version\": \"1.2.0\",\n  \"type\": \"module\",\n  "
            "\"dependencies\": {\n    \"d3-scale\": \"^4.0.0\"\n  }\n}\n");
  EXPECT_THAT(after[0].second, HasSubstr("[\"dash\", \"dash/src/charts\"]"));
  EXPECT_THAT(after[1].second, HasSubstr("{\n    \"@salt/charts\": \"*\",\n    \"d3-scale\""));
}

TEST(PackageCarving, folding_gives_the_tree_as_it_was) {
  auto plan = carve(tree_of(dashboard()), at("dash/src/charts"));
  ASSERT_TRUE(plan);
  TreeFiles carved = carried_out(dashboard(), *plan);
  auto back = fold(tree_of(carved), at("dash/src/charts"));
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_THAT(in_the_way(*back), IsEmpty());
  EXPECT_EQ(carried_out(carved, *back), dashboard());
}

TEST(PackageCarving, a_lock_and_a_list_beside_it_follow) {
  TreeFiles files = dashboard();
  files[0].second = "{ \"name\": \"salt\" }\n";
  files.push_back({"pnpm-workspace.yaml", "packages:\n  - dash\n"});
  auto plan = carve(tree_of(files), at("dash/src/charts"));
  ASSERT_TRUE(plan) << plan.error().message;
  EXPECT_THAT(in_the_way(*plan), IsEmpty());
  EXPECT_THAT(edits(*plan), Contains(HasSubstr("pnpm-workspace.yaml")));
  EXPECT_THAT(edits(*plan), Contains(HasSubstr("\"@salt/charts\": \"workspace:*\"")));
  files = dashboard();
  files.push_back(
      {"package-lock.json",
       "{\n  \"packages\": {\n    \"\": {\n      \"workspaces\": [\n        \"dash\"\n      ]\n    "
       "},\n    \"dash\": {\n      \"name\": \"@salt/dash\"\n    }\n  }\n}\n"});
  plan = carve(tree_of(files), at("dash/src/charts"));
  ASSERT_TRUE(plan);
  TreeFiles after = carried_out(files, *plan);
  EXPECT_EQ(
      after[4].second,
      "{\n  \"packages\": {\n    \"\": {\n      \"workspaces\": [\n        \"dash\",\n        "
      "\"dash/src/charts\"\n      ]\n    },\n    \"dash\": {\n      \"name\": \"@salt/dash\",\n      "
      "\"dependencies\": {\n        \"@salt/charts\": \"*\"\n      }\n    },\n    \"dash/src/charts\": {\n   "
      " "
      "  \"name\": \"@salt/charts\",\n      \"version\": \"1.2.0\",\n      \"dependencies\": {\n        "
      "\"d3-scale\": \"^4.0.0\"\n      }\n    },\n    \"node_modules/@salt/charts\": {\n      \"resolved\": "
      "\"dash/src/charts\",\n      \"link\": true\n    }\n  }\n}\n");
}

TEST(PackageCarving, an_index_is_found_without_a_word) {
  TreeFiles files = dashboard();
  files[2].first = "dash/src/charts/index.js";
  files[3].second = "import { axis } from './charts/index.js';\naxis();\n";
  auto plan = carve(tree_of(files), at("dash/src/charts"));
  ASSERT_TRUE(plan);
  EXPECT_THAT(in_the_way(*plan), IsEmpty());
}

TEST(PackageCarving, a_circle_is_refused_with_those_who_make_it) {
  TreeFiles files = dashboard();
  files[2].second = "import { tick } from '../tick.js';\nexport const axis = tick;\n";
  files.push_back({"dash/src/tick.js", "export const tick = 1;\n"});
  auto plan = carve(tree_of(files), at("dash/src/charts"));
  ASSERT_TRUE(plan);
  EXPECT_FALSE(plan->verified);
  EXPECT_THAT(in_the_way(*plan),
              Contains(HasSubstr("@salt/charts -> @salt/dash -> @salt/charts: dash/src/charts/axis.js "
                                 "imports ../tick.js, and dash/src/main.js imports ./charts/axis.js")));
}

TEST(PackageCarving, what_only_the_outer_package_maps_or_sets_is_told) {
  TreeFiles files = dashboard();
  files[2].second = "import x from '#tick';\nimport y from '@salt/dash/other.js';\n";
  files.push_back({"dash/.babelrc", "{}\n"});
  EXPECT_THAT(in_the_way(*carve(tree_of(files), at("dash/src/charts"))),
              ElementsAre(HasSubstr("imports #tick, which dash/package.json alone maps"),
                          HasSubstr("imports its own package by the name @salt/dash"),
                          HasSubstr("dash/.babelrc counts for files of its own package alone")));
}

TEST(PackageCarving, a_package_with_scripts_of_its_own_is_not_folded) {
  TreeFiles files = dashboard();
  files.push_back({"dash/src/charts/package.json",
                   "{ \"name\": \"@salt/charts\", \"type\": \"module\", \"scripts\": { \"t\": \"x\" } }\n"});
  EXPECT_THAT(in_the_way(*fold(tree_of(files), at("dash/src/charts"))),
              Contains(HasSubstr("says \"scripts\"")));
}

}  // namespace
}  // namespace yc::test
