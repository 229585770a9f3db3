// Units that no build script names, and the trees that projects show.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "inspect/managed_trees.h"
#include "inspect/mend.h"
#include "inspect/source_units.h"
#include "inspect/units.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::UnorderedElementsAre;

// "name (kind) members, uses …"
std::vector<std::string> units(const TreeFiles& files) {
  MemoryTree tree = tree_of(files);
  std::vector<SourceUnit> all = source_units(tree, read(tree));
  std::vector<std::string> out;
  for (const SourceUnit& unit : all) {
    std::string line = unit.name + " (" + unit.kind + ") " + std::to_string(unit.members.size());
    for (std::size_t used : unit.uses) line += ", uses " + all[used].name;
    out.push_back(line);
  }
  return out;
}

TEST(SourceUnits, of_python) {
  EXPECT_THAT(units({{"ingest/__init__.py", ""},
                     {"ingest/core/__init__.py", ""},
                     {"ingest/core/level.py", ""},
                     {"charts/__init__.py", "from ingest.core import level\n"},
                     {"run.py", "import charts\nif __name__ == '__main__':\n    charts\n"}}),
              UnorderedElementsAre("ingest (Python package) 3", "charts (Python package) 1, uses ingest",
                                   "run.py (Python program) 1, uses charts"));
}

TEST(SourceUnits, of_go) {
  EXPECT_THAT(units({{"go.mod", "module salt\n"},
                     {"main.go", "package main\n\nimport \"salt/gauge\"\n\nfunc main() { gauge.Run() }\n"},
                     {"gauge/gauge.go", "package gauge\n\nfunc Run() {}\n"}}),
              UnorderedElementsAre(". (Go package) 1, uses gauge", "gauge (Go package) 1"));
}

TEST(SourceUnits, sources_without_a_boundary_where_others_have_one) {
  TreeFiles files = {{"Core/Core.asmdef", "{ \"name\": \"Salt.Core\" }\n"},
                     {"Core/Tide.cs", "class Tide { }\n"},
                     {"Loose/Pier.cs", "class Pier { }\n"}};
  EXPECT_THAT(units(files), ElementsAre("(no assembly of its own) (assembly) 1"));
  MemoryTree tree = tree_of(files);
  std::vector<std::string> rebuilt;
  for (const Impact::Row& row : impact_of_change(tree, read(tree), {at("Core/Tide.cs")}).rebuilt)
    rebuilt.push_back(row.unit);
  EXPECT_THAT(rebuilt, UnorderedElementsAre("Salt.Core", "(no assembly of its own)"));
}

TEST(ManagedTrees, both_side_by_side) {
  MemoryTree tree = tree_of(
      {{"a.vcxproj",
        "<Project xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\"><ItemGroup>"
        "<ClCompile Include=\"net\\radio.c\" /><ClCompile Include=\"tide.c\" /></ItemGroup></Project>\n"},
       {"a.vcxproj.filters",
        "<Project xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\"><ItemGroup>"
        "<ClCompile Include=\"net\\radio.c\"><Filter>radio</Filter></ClCompile>"
        "<ClCompile Include=\"tide.c\" /></ItemGroup></Project>\n"},
       {"net/radio.c", ""},
       {"tide.c", ""}});
  auto trees = managed_trees(tree, read(tree));
  ASSERT_EQ(trees.size(), 1U);
  const std::vector<ManagedRow>& rows = trees.begin()->second;
  ASSERT_EQ(rows.size(), 2U);
  EXPECT_EQ(rows[0].path.str(), "net/radio.c");
  EXPECT_EQ(rows[0].shown, "radio");
  EXPECT_EQ(rows[0].kind, ManagedRow::Kind::elsewhere);
  EXPECT_EQ(rows[1].kind, ManagedRow::Kind::same);
}

TEST(Mend, what_leads_nowhere_is_led_to_the_only_file_of_its_name) {
  auto mended = [](const std::string& kind, const TreeFiles& files) {
    return edits(mend(tree_of(files), kind));
  };
  EXPECT_THAT(mended("dangling", {{"site/index.html", "<img src=\"a/map.svg\">\n"}, {"site/b/map.svg", ""}}),
              ElementsAre("site/index.html: a/map.svg -> b/map.svg"));
  EXPECT_THAT(mended("lost-module", {{"ingest/__init__.py", ""},
                                     {"ingest/cli.py", "from ingest import stations\n"},
                                     {"ingest/core/__init__.py", ""},
                                     {"ingest/core/stations.py", ""}}),
              ElementsAre("ingest/cli.py: ingest -> ingest.core"));
  Plan plan =
      mend(tree_of({{"index.html", "<img src=\"x/map.svg\">\n"}, {"a/map.svg", ""}, {"b/map.svg", ""}}),
           "dangling");
  EXPECT_THAT(told(plan),
              ElementsAre("unmended index.html cannot be mended by itself: more than one file has "
                          "its name"));
}

TEST(Mend, one_named_file_is_listed) {
  TreeFiles files = {{"a.csproj",
                      "<Project xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\"><ItemGroup>\n"
                      "<Compile Include=\"A.cs\" />\n</ItemGroup></Project>\n"},
                     {"A.cs", ""},
                     {"B.cs", ""},
                     {"C.cs", ""}};
  Plan plan = mend(tree_of(files), "unlisted", at("B.cs"));
  EXPECT_THAT(edits(plan), ElementsAre("a.csproj:  -> <Compile Include=\"B.cs\" />\n"));
  plan = mend(tree_of(files), "unlisted", at("A.cs"));
  EXPECT_TRUE(plan.edits.empty());
  EXPECT_THAT(told(plan), ElementsAre("unmended A.cs no project lists a file of its kind beside it, or one "
                                      "lists it already"));
}

}  // namespace
}  // namespace yc::test
