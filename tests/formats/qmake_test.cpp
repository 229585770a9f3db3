#include "formats/qmake/qmake.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;

const std::string kApp =
    "TEMPLATE = app # a viewer\nCONFIG -= qt\ninclude(../common.pri)\n"
    "SOURCES += main.cpp \\\n    # the chart\n    chart/chart.cpp\n"
    "HEADERS = chart/chart.h\nwin32 {\n    RC_FILE = icons/tide.rc\n} else:unix: LIBS += -L../level -llevel\n"
    "DISTFILES += data/*.csv \"data/notes of May.txt\"\nmessage(data/a.csv)\nexists(data/b.csv): CONFIG += "
    "b\n";

TreeFiles gauges() {
  return {{"gauges.pro", "TEMPLATE = subdirs\nSUBDIRS = level \\\n  app\napp.depends = level\n"},
          {"common.pri", "INCLUDEPATH += $$PWD/inc\nSOURCES += $$PWD/shared/log.cpp\n"},
          {"level/level.pro", "TEMPLATE = lib\ninclude(../common.pri)\nSOURCES += level.cpp\n"},
          {"level/level.cpp", "#include \"level.h\"\n"},
          {"inc/level.h", "\n"},
          {"shared/log.cpp", "\n"},
          {"app/app.pro", kApp},
          {"app/main.cpp", "#include \"level.h\"\n"},
          {"app/chart/chart.cpp", "#include \"chart.h\"\n"},
          {"app/chart/chart.h", "\n"},
          {"app/icons/tide.rc", "\n"},
          {"app/data/a.csv", "\n"},
          {"app/data/b.csv", "\n"},
          {"app/data/notes of May.txt", "\n"}};
}

TEST(Qmake, projects_are_read_with_what_they_include) {
  ReferenceGraph graph = read(tree_of(gauges()));
  EXPECT_THAT(dump(graph, Role::source),
              ElementsAre("@/shared/log.cpp -> shared/log.cpp", "chart/chart.cpp -> app/chart/chart.cpp",
                          "level.cpp -> level/level.cpp", "main.cpp -> app/main.cpp"));
  EXPECT_THAT(dump(graph, Role::subfolder), ElementsAre("app -> app/app.pro", "level -> level/level.pro"));
  EXPECT_THAT(dump(graph, Role::search_root), Contains("../level -> level"));
  EXPECT_THAT(dump(graph, Role::argument), ElementsAre("data/b.csv -> app/data/b.csv ?"));
  EXPECT_THAT(compiled(graph), Contains("app/main.cpp [app][app][inc]"));
}

TEST(Qmake, a_backslash_goes_on_wherever_it_ends_a_line) {
  ReferenceGraph graph =
      read(tree_of({{"a.pro", "SOURCES = a.c\\\n  b.c \\   \n  c.c \\ # the last but one\r\n  d.c\\"},
                    {"a.c", ""},
                    {"b.c", ""},
                    {"c.c", ""},
                    {"d.c", ""}}));
  EXPECT_THAT(dump(graph, Role::source), ElementsAre("a.c -> a.c", "b.c -> b.c", "c.c -> c.c", "d.c -> d.c"));
}

TEST(Qmake, words_follow_where_they_stand) {
  expect_edits({
      {"a source of a list with a comment in it",
       gauges(),
       {{"app/chart", "app/views/chart"}},
       {"app/app.pro: chart/chart.cpp -> views/chart/chart.cpp",
        "app/app.pro: chart/chart.h -> views/chart/chart.h"}},
      {"what an included part names",
       gauges(),
       {{"shared", "app/shared"}},
       {"common.pri: /shared/log.cpp -> /app/shared/log.cpp"}},
      {"the included part itself",
       gauges(),
       {{"common.pri", "build/common.pri"}},
       {"app/app.pro: ../common.pri -> ../build/common.pri", "common.pri: /inc -> /../inc",
        "common.pri: /shared/log.cpp -> /../shared/log.cpp",
        "level/level.pro: ../common.pri -> ../build/common.pri"}},
      {"a word in quotes",
       gauges(),
       {{"app/data/notes of May.txt", "app/notes of May.txt"}},
       {"app/app.pro: data/notes of May.txt -> notes of May.txt ?"}},
      {"data of a pattern, with a file by its name",
       gauges(),
       {{"app/data", "app/tables"}},
       {"app/app.pro: data/*.csv -> tables/*.csv ?",
        "app/app.pro: data/notes of May.txt -> tables/notes of May.txt ?",
        "app/app.pro: data/b.csv -> tables/b.csv ?"}},
  });
}

TEST(Qmake, a_project_is_found_by_the_name_of_its_folder) {
  expect_edits({
      {"another line knows it by its name",
       gauges(),
       {{"level", "libs/level"}},
       {"app/app.pro: ../level -> ../libs/level", "gauges.pro:  -> level.subdir = libs/level\n",
        "level/level.pro: ../common.pri -> ../../common.pri"}},
      {"the folder gets another name",
       {{"all.pro", "SUBDIRS += level\n"}, {"level/level.pro", "SOURCES += a.c\n"}, {"level/a.c", "\n"}},
       {{"level", "core"}},
       {"all.pro: level -> core/level.pro"}},
      {"and both get one",
       {{"all.pro", "SUBDIRS += level\n"}, {"level/level.pro", "SOURCES += a.c\n"}, {"level/a.c", "\n"}},
       {{"level/level.pro", "core/core.pro"}, {"level/a.c", "core/a.c"}},
       {"all.pro: level -> core"}},
  });
}

TEST(Qmake, a_header_that_moves_away_gets_a_folder_to_look_in) {
  PlanOptions options;
  options.include_order = {IncludeForm::new_root};
  TreeFiles files = {{"a.pro", "SOURCES = a.c\n"}, {"a.c", "#include \"h.h\"\n"}, {"h.h", "\n"}};
  EXPECT_THAT(edits(planned(files, {{"h.h", "inc/h.h"}}, options)),
              ElementsAre("a.pro:  -> INCLUDEPATH += inc\n"));
  files[0].second = "SOURCES = a.c\nINCLUDEPATH += old\n";
  files.push_back({"old/x.h", "\n"});
  EXPECT_THAT(edits(planned(files, {{"h.h", "inc/h.h"}}, options)), ElementsAre("a.pro:  ->  inc"));
}

TEST(Qmake, sources_are_looked_for_in_vpath) {
  TreeFiles files = {{"a.pro", "VPATH += src gui\nSOURCES += tide.cpp chart.cpp\n"},
                     {"src/tide.cpp", "\n"},
                     {"gui/chart.cpp", "\n"},
                     {"chart.cpp", "\n"}};
  EXPECT_THAT(dump(read(tree_of(files)), Role::source),
              ElementsAre("chart.cpp -> chart.cpp", "tide.cpp -> src/tide.cpp"));
  EXPECT_THAT(edits(planned(files, {{"src/tide.cpp", "gui/tide.cpp"}})), IsEmpty());
  EXPECT_THAT(edits(planned(files, {{"src/tide.cpp", "lib/tide.cpp"}})), ElementsAre("a.pro: src -> lib"));
}

TEST(Qmake, files_of_other_languages_are_told) {
  TreeFiles files = {{"app/rules.pro", "-keep class tide { *; } # as tide.c has it\n"}, {"app/tide.c", "\n"}};
  EXPECT_THAT(reasons(planned(files, {{"app/tide.c", "app/src/tide.c"}})), Contains("garbled app/rules.pro"));
}

TEST(Qmake, blanks_may_stand_before_what_a_call_is_given) {
  TreeFiles files = {{"src/src.pro", "TEMPLATE = lib\ninclude ( $${PWD}/src.pri )\n"},
                     {"src/src.pri", "SOURCES += $$PWD/tide.cpp\n"},
                     {"src/tide.cpp", "\n"}};
  EXPECT_THAT(
      edits(planned(files, {{"src/src.pri", "src/parts/src.pri"}})),
      ElementsAre("src/src.pri: /tide.cpp -> /../tide.cpp", "src/src.pro: /src.pri -> /parts/src.pri"));
}

TEST(Qmake, files_are_listed_by_a_function) {
  TreeFiles files = {{"pole.pro", "TEMPLATE = app\nSOURCES += $$files(src/*.cpp)\n"},
                     {"src/main.cpp", "int main() {}\n"},
                     {"src/tide.cpp", "\n"}};
  EXPECT_THAT(edits(planned(files, {{"src", "source"}})),
              ElementsAre("pole.pro: src/*.cpp -> source/*.cpp ?"));
  EXPECT_THAT(reasons(planned(files, {{"src/main.cpp", "main.cpp"}})), ElementsAre("lost pole.pro"));
}

// Folders of the build tree are those of the projects.
TEST(Qmake, places_in_the_build_tree_follow_their_projects) {
  TreeFiles files = gauges();
  files[6].second +=
      "LIBS += -L$$OUT_PWD/../level -llevel\nPRE_TARGETDEPS += $$OUT_PWD/../level/liblevel.a\n";
  auto found = edits(planned(files, {{"level", "lib/level"}}));
  EXPECT_THAT(found, Contains("app/app.pro: /../level -> /../lib/level"));
  found = edits(planned(files, {{"app", "apps/app"}}));
  EXPECT_THAT(found, Contains("app/app.pro: /../level/liblevel.a -> /../../level/liblevel.a"));
}

TEST(Qmake, what_functions_give_is_unseen) {
  TreeFiles files = {{"a.pro", "SOURCES = $$files(src/*.c) $$system(ls)/b.c\n"}, {"src/b.c", "\n"}};
  EXPECT_THAT(reasons(planned(files, {{"src/b.c", "src/c.c"}})), Contains("unseen a.pro"));
}

TEST(Qmake, clauses_of_prolog_are_no_project) {
  EXPECT_THAT(
      edits(planned({{"constraints.pro", "enforced(A, '^1') :-\n  B = 'src/tide.c'.\n"}, {"src/tide.c", ""}},
                    {{"src/tide.c", "core/tide.c"}})),
      ::testing::IsEmpty());
}

}  // namespace
}  // namespace yc::test
