// Looking at trees in memory: what refers to what, what leads nowhere, who builds what.
#include "inspect/inspect.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "inspect/contexts.h"
#include "inspect/managed.h"
#include "inspect/mend.h"
#include "inspect/units.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;
using ::testing::UnorderedElementsAre;

// "file text -> targets", in order; likely ones end in " ?".
std::vector<std::string> lines(const std::vector<Seen>& all) {
  std::vector<std::string> out;
  for (const Seen& seen : all) {
    std::string line = seen.file.str() + " " + seen.text + " ->";
    for (const RelPath& target : seen.targets) line += " " + target.str();
    out.push_back(line + (seen.likely ? " ?" : ""));
  }
  return out;
}

std::vector<std::string> findings(const TreeFiles& files, std::size_t alias_from = kNoRule) {
  MemoryTree tree = tree_of(files);
  std::vector<std::string> out;
  for (const Finding& finding : check(tree, read(tree), alias_from))
    out.push_back(finding.id + " " + finding.file.str() +
                  (finding.suggestion.empty() ? "" : ", perhaps " + finding.suggestion) +
                  (finding.is_note ? " (note)" : ""));
  return out;
}

const TreeFiles kStation = {
    {"Makefile", "CPPFLAGS = -Iinc\nstation: src/main.o src/tide.o\n\t$(CC) -o $@ $^\n"},
    {"src/main.c", "#include \"tide.h\"\n"},
    {"src/tide.c", "#include <tide.h>\n"},
    {"inc/tide.h", ""}};

TEST(Inspect, neighbours_tell_both_ways) {
  MemoryTree tree = tree_of(kStation);
  ReferenceGraph graph = read(tree);
  Neighbours header = neighbours(tree, graph, at("inc/tide.h"));
  EXPECT_THAT(lines(header.incoming),
              ElementsAre("src/main.c tide.h -> inc/tide.h", "src/tide.c tide.h -> inc/tide.h"));
  EXPECT_THAT(header.outgoing, IsEmpty());
  EXPECT_THAT(header.units, ElementsAre("Makefile"));
  Neighbours folder = neighbours(tree, graph, at("src"));
  EXPECT_THAT(lines(folder.outgoing), Contains("src/main.c tide.h -> inc/tide.h"));
  EXPECT_THAT(folder.incoming.size(), 2U) << "both objects";
}

TEST(Inspect, one_text_may_lead_to_two_files) {
  MemoryTree tree = tree_of(
      {{"Makefile", "all: one two\none: one.c\n\tcc -Ia -o one one.c\ntwo: two.c\n\tcc -Ib -o two two.c\n"},
       {"one.c", "#include \"user.h\"\n"},
       {"two.c", "#include \"user.h\"\n"},
       {"user.h", "#include <cfg.h>\n"},
       {"a/cfg.h", ""},
       {"b/cfg.h", ""}});
  ReferenceGraph graph = read(tree);
  Neighbours user = neighbours(tree, graph, at("user.h"));
  ASSERT_EQ(user.outgoing.size(), 1U);
  EXPECT_THAT(user.outgoing[0].targets, ElementsAre(at("a/cfg.h"), at("b/cfg.h")));
}

TEST(Inspect, check_finds_what_leads_nowhere_and_what_was_meant) {
  EXPECT_THAT(findings(kStation), IsEmpty());
  EXPECT_THAT(findings({{"Makefile", "p: main.o\n\tcc -o $@ $^\n"},
                        {"main.c", "#include \"tide.h\"\n"},
                        {"inc/tide.h", ""}}),
              ElementsAre("dangling main.c, perhaps inc/tide.h"));
  EXPECT_THAT(
      findings({{"CMakeLists.txt",
                 "cmake_minimum_required(VERSION 3.16)\nproject(t C)\nadd_executable(a main.c lvl.c)\n"},
                {"main.c", ""},
                {"src/lvl.c", ""}}),
      ElementsAre("dangling CMakeLists.txt, perhaps src/lvl.c"));
  EXPECT_THAT(findings({{"meson.build", "project('t', 'c')\nexecutable('a', 'gone.c')\n"}}),
              ElementsAre("dangling meson.build"));
}

TEST(Inspect, check_tells_of_names_that_could_mean_two_things) {
  EXPECT_THAT(
      findings({{"Makefile", "p: main.o\n\tcc -o $@ $^\nmain.o: main.c\n\tcc -Ia -Ib -c -o $@ main.c\n"},
                {"main.c", "#include <cfg.h>\n"},
                {"a/cfg.h", ""},
                {"b/cfg.h", ""}}),
      Contains(testing::StartsWith("shadowed")));
}

TEST(Inspect, check_holds_modules_against_a_rule) {
  TreeFiles files = {
      {"tsconfig.json", "{ \"compilerOptions\": { \"paths\": { \"@/*\": [\"./src/*\"] } } }\n"},
      {"src/a/b/c.ts", "import '../../tide';\nimport './d';\n"},
      {"src/a/b/d.ts", ""},
      {"src/tide.ts", ""}};
  EXPECT_THAT(findings(files), IsEmpty());
  EXPECT_THAT(findings(files, 2), ElementsAre(testing::StartsWith("against-rule src/a/b/c.ts")));
  EXPECT_THAT(findings(files, 3), IsEmpty());
}

TEST(Inspect, survey_counts) {
  MemoryTree tree = tree_of(kStation);
  Survey found = survey(tree, read(tree));
  EXPECT_EQ(found.files, 4U);
  EXPECT_EQ(found.files_by_format["make"], 1U);
  ASSERT_EQ(found.units.size(), 1U);
  EXPECT_EQ(found.units[0].name, "Makefile");
  EXPECT_EQ(found.units[0].sources, 2U);
  EXPECT_EQ(found.search_roots[at("inc")], 1U);
  EXPECT_EQ(found.dangling, 0U);
}

TEST(Units, who_builds_a_file_and_who_uses_whom) {
  MemoryTree tree =
      tree_of({{"CMakeLists.txt",
                "cmake_minimum_required(VERSION 3.16)\nproject(t C)\nadd_library(level level.c)\n"
                "add_executable(station main.c)\ntarget_link_libraries(station PRIVATE level)\n"
                "add_executable(tool tool.c)\n"},
               {"level.c", "#include \"level.h\"\n"},
               {"level.h", ""},
               {"main.c", "#include \"level.h\"\n"},
               {"tool.c", ""}});
  ReferenceGraph graph = read(tree);
  UnitMap map(tree, graph);
  auto names = [&](const std::vector<std::size_t>& numbers) {
    std::vector<std::string> out;
    for (std::size_t number : numbers) out.push_back(map.all()[number].name);
    return out;
  };
  EXPECT_THAT(names(map.owners(at("level.c"))), ElementsAre("level"));
  EXPECT_THAT(names(map.builders(at("level.h"))), UnorderedElementsAre("level", "station"));
  EXPECT_THAT(map.owners(at("level.h")), IsEmpty());
  Impact impact = impact_of_change(tree, graph, {at("level.c")});
  std::vector<std::string> rebuilt;
  for (const Impact::Row& row : impact.rebuilt) rebuilt.push_back(row.unit);
  EXPECT_THAT(rebuilt, UnorderedElementsAre("level", "station")) << "who uses it is linked anew";
  EXPECT_EQ(impact.files, 1U);
}

TEST(Units, of_meson_and_of_projects) {
  MemoryTree tree =
      tree_of({{"meson.build",
                "project('t', 'c')\nlevel = static_library('level', 'level.c')\nlevel_dep = "
                "declare_dependency(link_with: level)\nexecutable('station', 'main.c', dependencies: "
                "level_dep)\nexecutable('tool', 'tool.c', link_with: [level])\n"},
               {"level.c", ""},
               {"main.c", ""},
               {"tool.c", ""},
               {"office/Office.csproj", "<Project Sdk=\"Microsoft.NET.Sdk\" />\n"},
               {"office/A.cs", ""},
               {"office/B.cs", ""}});
  ReferenceGraph graph = read(tree);
  Impact impact = impact_of_change(tree, graph, {at("level.c")});
  std::vector<std::string> rebuilt;
  for (const Impact::Row& row : impact.rebuilt) rebuilt.push_back(row.unit);
  EXPECT_THAT(rebuilt, UnorderedElementsAre("level", "station", "tool"));
  std::vector<std::string> lines;
  for (const Survey::UnitLine& unit : survey(tree, graph).units)
    lines.push_back(unit.name + " " + unit.kind + " " + std::to_string(unit.sources));
  EXPECT_THAT(lines,
              UnorderedElementsAre("level meson 1", "station meson 1", "tool meson 1", "Office project 2"));
}

TEST(Managed, differences_between_a_project_and_the_disk) {
  const std::string head =
      "<Project xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\"><ItemGroup>\n";
  TreeFiles files = {
      {"a.csproj",
       head +
           "<Compile Include=\"src\\A.cs\" />\n<Compile Include=\"src\\Gone.cs\" />\n"
           "<Compile Include=\"src\\b.cs\" />\n<Compile Include=\"src\\A.cs\" />\n</ItemGroup></Project>\n"},
      {"src/A.cs", ""},
      {"src/B.cs", ""},
      {"src/C.cs", ""}};
  MemoryTree tree = tree_of(files);
  std::vector<std::string> found;
  for (const ManagedFinding& item : check_managed(tree, read(tree))) found.push_back(item.finding.id);
  EXPECT_THAT(found, UnorderedElementsAre("dangling", "listed-twice", "unlisted", "wrong-case"));
  for (const char* kind : {"unlisted", "dangling", "listed-twice", "wrong-case"}) {
    SCOPED_TRACE(kind);
    Plan plan = mend(tree, kind);
    EXPECT_TRUE(plan.verified);
    EXPECT_FALSE(plan.edits.empty());
  }
  EXPECT_THAT(edits(mend(tree, "wrong-case")), ElementsAre("a.csproj: src\\b.cs -> src\\B.cs"));
}

}  // namespace
}  // namespace yc::test
