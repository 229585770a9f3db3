#include "formats/studio_projects/studio_projects.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

const std::string kHead = "# Microsoft Developer Studio Project File - Name=\"tide\" - Package Owner=<4>\r\n";

TreeFiles office(const std::string& lines) {
  return {{"win/tide.dsp", kHead + lines},
          {"win/gauges.dsw",
           "Microsoft Developer Studio Workspace File, Format Version 6.00\r\n"
           "Project: \"tide\"=.\\tide.dsp - Package Owner=<4>\r\n"},
          {"src/tide.c", "#include \"tide.h\"\n"},
          {"src/Radio Mast.cpp", "\n"},
          {"inc/tide.h", "\n"},
          {"data/poles.csv", "\n"}};
}

TEST(StudioProjects, sources_folders_and_projects_are_read) {
  TreeFiles files = office(
      "# ADD BASE CPP /W3 /I \"..\\inc\" /D \"WIN32\"\r\n# ADD CPP /W3 /I..\\inc /D \"..\\src\"\r\n"
      "!MESSAGE ..\\src\\tide.c\r\nSOURCE=..\\SRC\\tide.c\r\nSOURCE=\"..\\src\\Radio Mast.cpp\"\r\n"
      "SOURCE=..\\src\\gone.c\r\nInputPath=../data/poles.csv\r\nSOURCE=\"$(InputPath)\"\r\n");
  ReferenceGraph graph = read(tree_of(files));
  EXPECT_THAT(dump(graph, Role::source),
              ElementsAre("../SRC/tide.c -> src/tide.c", "../src/Radio Mast.cpp -> src/Radio Mast.cpp"));
  EXPECT_THAT(dump(graph, Role::search_root), ElementsAre("../inc -> inc"));
  EXPECT_THAT(dump(graph, Role::subfolder), ElementsAre("./tide.dsp -> win/tide.dsp"));
  EXPECT_THAT(dump(graph, Role::argument),
              ElementsAre("../data/poles.csv -> data/poles.csv ?", "../src -> src ?"));
  EXPECT_THAT(compiled(graph), ElementsAre("src/Radio Mast.cpp [inc]", "src/tide.c [inc]"));
  EXPECT_EQ(std::count_if(graph.references.begin(), graph.references.end(),
                          [](const Reference& one) { return one.dangling; }),
            1);
}

TEST(StudioProjects, paths_follow_in_their_own_spelling) {
  expect_edits({
      {"a source, and the root that it is compiled with",
       office("# ADD CPP /I \"..\\inc\"\r\nSOURCE=..\\src\\tide.c\r\nSOURCE=\"..\\src\\Radio Mast.cpp\"\r\n"),
       {{"src", "lib"}, {"inc", "lib/inc"}},
       {"win/tide.dsp: ..\\inc -> ..\\lib\\inc", "win/tide.dsp: ..\\src\\tide.c -> ..\\lib\\tide.c",
        "win/tide.dsp: ..\\src\\Radio Mast.cpp -> ..\\lib\\Radio Mast.cpp"}},
      {"a project of a workspace",
       office("SOURCE=..\\src\\tide.c\r\n"),
       {{"win/tide.dsp", "win/old/tide.dsp"}},
       {"win/gauges.dsw: .\\tide.dsp -> .\\old\\tide.dsp",
        "win/tide.dsp: ..\\src\\tide.c -> ..\\..\\src\\tide.c"}},
      {"a project that looks in the root",
       {{"win/tide.dsp", kHead + "# ADD CPP /I \"..\" /D \"X\"\r\nSOURCE=..\\src\\tide.c\r\n"},
        {"src/tide.c", "#include \"level.h\"\n"},
        {"level.h", "\n"}},
       {{"win/tide.dsp", "win/old/tide.dsp"}},
       {"win/tide.dsp: .. -> ..\\..", "win/tide.dsp: ..\\src\\tide.c -> ..\\..\\src\\tide.c"}},
      {"what lies outside of the tree, and what the build makes elsewhere",
       office("# ADD CPP /I \"..\\..\\zlib\"\r\n# ADD LINK32 ..\\made\\tide.lib kernel32.lib "
              ".\\Release\\a.lib\r\n"),
       {{"win/tide.dsp", "win/old/tide.dsp"}},
       {"win/gauges.dsw: .\\tide.dsp -> .\\old\\tide.dsp", "win/tide.dsp: ..\\..\\zlib -> ..\\..\\..\\zlib",
        "win/tide.dsp: ..\\made\\tide.lib -> ..\\..\\made\\tide.lib"}},
  });
}

TEST(StudioProjects, what_macros_stand_for_and_other_files_of_that_ending_hold_back) {
  TreeFiles files = office("Cmds=copy $(Top)\\src\\tide.c x\r\n");
  EXPECT_THAT(reasons(planned(files, {{"src/tide.c", "src/level.c"}})), ElementsAre("unseen win/tide.dsp"));
  files[0].second = "a sound processor's program: tide.c\n";
  EXPECT_THAT(reasons(planned(files, {{"src/tide.c", "src/level.c"}})), ElementsAre("garbled win/tide.dsp"));
  EXPECT_THAT(edits(planned(files, {{"data/poles.csv", "data/marks.csv"}})), IsEmpty());
  // A name that cannot be written without quotes is read, though it does not follow.
  TreeFiles comma = office("SOURCE=..\\src\\tide,a.c\r\n");
  comma.emplace_back("src/tide,a.c", "\n");
  EXPECT_FALSE(planned(comma, {{"src/tide,a.c", "src/net/tide,a.c"}}).verified);
}

}  // namespace
}  // namespace yc::test
