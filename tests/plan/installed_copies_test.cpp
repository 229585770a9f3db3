// Uses of a library that is copied into the tree and installed as a package.
#include "plan/installed_copies.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::HasSubstr;
using ::testing::IsEmpty;

TreeFiles dashboard(const std::string& main, const std::string& manifest = "{ \"main\": \"index.js\" }") {
  return {{"src/main.js", main},
          {"vendor/charts/index.js", "export const a = 1;\n"},
          {"vendor/charts/lib/draw.js", "export const draw = 1;\n"},
          {"node_modules/charts/package.json", manifest},
          {"node_modules/charts/index.js", "export const a = 1;\n"},
          {"node_modules/charts/lib/draw.js", "export const draw = 1;\n"}};
}

Plan led(const TreeFiles& files, LibraryUse use) {
  auto plan = use_library(tree_of(files), at("vendor/charts"), "charts", use);
  EXPECT_TRUE(plan);
  return *plan;
}

TEST(InstalledCopies, modules_are_named_as_the_package_has_them_and_back) {
  TreeFiles files = dashboard("import '../vendor/charts/index.js';\nimport '../vendor/charts/lib/draw';\n");
  EXPECT_THAT(edits(led(files, LibraryUse::installed)),
              ElementsAre("src/main.js: ../vendor/charts/index.js -> charts",
                          "src/main.js: ../vendor/charts/lib/draw -> charts/lib/draw"));
  files[0].second = "import 'charts';\nimport 'charts/lib/draw';\n";
  EXPECT_THAT(edits(led(files, LibraryUse::copied)),
              ElementsAre("src/main.js: charts -> ../vendor/charts/index.js",
                          "src/main.js: charts/lib/draw -> ../vendor/charts/lib/draw"));
}

TEST(InstalledCopies, only_the_very_same_file_takes_the_place_of_another) {
  TreeFiles files = dashboard("import '../vendor/charts/lib/draw.js';\n");
  files[5].second = "export const draw = 2;\n";
  Plan plan = led(files, LibraryUse::installed);
  EXPECT_THAT(edits(plan), IsEmpty());
  EXPECT_THAT(told(plan), ElementsAre(HasSubstr("which the installed package does not have so")));
}

TEST(InstalledCopies, a_package_says_what_may_be_named) {
  TreeFiles files = dashboard("import '../vendor/charts/lib/draw.js';\n",
                              "{ \"exports\": { \".\": \"./index.js\", \"./draw\": \"./lib/draw.js\" } }");
  EXPECT_THAT(edits(led(files, LibraryUse::installed)),
              ElementsAre("src/main.js: ../vendor/charts/lib/draw.js -> charts/draw"));
  files[3].second = "{ \"exports\": { \".\": \"./index.js\" } }";
  EXPECT_THAT(told(led(files, LibraryUse::installed)),
              ElementsAre(HasSubstr("which the package does not let others name")));
}

TEST(InstalledCopies, pages_lead_to_the_installed_file) {
  TreeFiles files = dashboard("");
  files.push_back({"index.html", "<script src=\"vendor/charts/index.js\"></script>\n"});
  EXPECT_THAT(edits(led(files, LibraryUse::installed)),
              ElementsAre("index.html: vendor/charts/index.js -> node_modules/charts/index.js"));
}

TEST(InstalledCopies, that_differ_are_found) {
  TreeFiles files = dashboard("");
  files.push_back({"vendor/charts/package.json", "{ \"name\": \"charts\", \"main\": \"index.js\" }"});
  files[5].second = "";
  std::vector<CopiedPackage> found = copied_packages(tree_of(files));
  ASSERT_EQ(found.size(), 1U);
  EXPECT_THAT(found[0].different, ElementsAre("lib/draw.js", "package.json"));
}

}  // namespace
}  // namespace yc::test
