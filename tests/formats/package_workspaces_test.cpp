#include "formats/package_workspaces/package_workspaces.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsSupersetOf;

TreeFiles packages(const std::string& name, const std::string& bytes) {
  return {{name, bytes},
          {"packages/level/package.json", "{ \"name\": \"level\" }\n"},
          {"packages/chart/package.json", "{ \"name\": \"chart\" }\n"},
          {"apps/board/package.json", "{ \"name\": \"board\" }\n"},
          {"packages/notes/readme.txt", ""}};
}

TEST(PackageLists, members_follow_by_name_and_by_pattern) {
  TreeFiles yaml =
      packages("pnpm-workspace.yaml", "packages:\n  - 'packages/*'\n  - apps/board\n  - '!packages/old'\n");
  EXPECT_THAT(edits(planned(yaml, {{"apps/board", "programs/board"}})),
              Contains("pnpm-workspace.yaml: apps/board -> programs/board"));
  EXPECT_THAT(edits(planned(yaml, {{"packages/level", "libs/level"}})),
              Contains("pnpm-workspace.yaml:  -> \n  - 'libs/*'"));
  EXPECT_THAT(edits(planned(yaml, {{"packages/level", "libs/level"}, {"packages/chart", "libs/chart"}})),
              Contains("pnpm-workspace.yaml: packages/* -> libs/*"));
  EXPECT_THAT(edits(planned(packages("lerna.json", "{ \"packages\": [\"packages/*\"] }\n"),
                            {{"packages/level", "libs/level"}})),
              Contains("lerna.json:  -> , \"libs/*\""));
  EXPECT_THAT(edits(planned(packages("pnpm-workspace.yaml", "packages:\n  - packages/**\n"),
                            {{"packages/level", "packages/deep/level"}})),
              ElementsAre());
}

TEST(PackageLocks, keys_and_links_follow) {
  EXPECT_THAT(
      edits(planned(
          packages(
              "package-lock.json",
              "{ \"packages\": { \"\": {}, \"packages/level\": {}, \"packages/level/node_modules/x\": {},\n"
              "\"packages/chart\": { \"dependencies\": { \"level\": \"file:../level\" } },\n"
              "\"node_modules/level\": { \"resolved\": \"packages/level\", \"link\": true },\n"
              "\"node_modules/far\": { \"resolved\": \"https://packages/level\" } } }\n"),
          {{"packages/level", "libs/level"}})),
      ElementsAre("package-lock.json: packages/level -> libs/level",
                  "package-lock.json: packages/level -> libs/level",
                  "package-lock.json: ../level -> ../../libs/level",
                  "package-lock.json: packages/level -> libs/level"));
  EXPECT_THAT(
      edits(planned(
          packages("pnpm-lock.yaml",
                   "lockfileVersion: '6.0'\n\nimporters:\n\n  .: {}\n\n  packages/chart:\n    dependencies:\n"
                   "      level:\n        specifier: workspace:../level\n        version: link:../level\n\n"
                   "  packages/level: {}\n\npackages:\n\n  file:packages/level:\n"
                   "    resolution: {directory: packages/level, type: directory}\n"),
          {{"packages/level", "libs/level"}})),
      ElementsAre(
          "pnpm-lock.yaml: ../level -> ../../libs/level", "pnpm-lock.yaml: ../level -> ../../libs/level",
          "pnpm-lock.yaml: packages/level -> libs/level", "pnpm-lock.yaml: packages/level -> libs/level",
          "pnpm-lock.yaml: packages/level -> libs/level"));
  EXPECT_THAT(
      edits(planned(packages("yarn.lock",
                             "\"level@workspace:packages/level\":\n  resolution: "
                             "\"level@workspace:packages/level\"\n"),
                    {{"packages/level", "libs/level"}})),
      ElementsAre("yarn.lock: packages/level -> libs/level", "yarn.lock: packages/level -> libs/level"));
}

TEST(PackageLocks, a_package_that_names_its_own_folder_follows) {
  TreeFiles files = packages("x", "");
  files[3].second = "{ \"name\": \"board\", \"repository\": { \"directory\": \"apps/board\" } }\n";
  EXPECT_THAT(edits(planned(files, {{"apps/board", "programs/board"}})),
              Contains("apps/board/package.json: apps/board -> programs/board"));
}

TEST(PackageLocks, tasks_of_other_packages_follow) {
  TreeFiles files = packages("x", "");
  files.push_back(
      {"apps/site/package.json",
       "{ \"name\": \"site\", \"tasks\": { \"build\": { \"dependencies\": [\"../board:build\"] } } }\n"});
  EXPECT_THAT(edits(planned(files, {{"apps/board", "programs/board"}})),
              Contains("apps/site/package.json: ../board -> ../../programs/board"));
}

}  // namespace
}  // namespace yc::test
