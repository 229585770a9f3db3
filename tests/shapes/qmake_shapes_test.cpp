// Projects of qmake: each is moved, built with qmake and make outside of its sources, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

// The viewer prints what the library says.
const char* const kBuild =
    "rm -rf /tmp/$$.q && mkdir /tmp/$$.q && here=$PWD && cd /tmp/$$.q && /usr/lib/qt5/bin/qmake "
    "$here/gauges.pro "
    ">/dev/null 2>&1 && make -s >/dev/null && test \"$($(find . -name viewer -type f -perm -u+x))\" = 'level "
    "7'; "
    "status=$?; rm -rf /tmp/$$.q; exit $status";

Files gauges() {
  return {
      {"gauges.pro", "TEMPLATE = subdirs\nSUBDIRS = level viewer\nviewer.depends = level\n"},
      {"common.pri", "CONFIG -= qt\nINCLUDEPATH += $$PWD/inc\n"},
      {"level/level.pro",
       "TEMPLATE = lib\nCONFIG += staticlib\ninclude(../common.pri)\nSOURCES += level.cpp \\\n"
       "    tables/tide.cpp # of the spring\nHEADERS += tables/tide.h\n"},
      {"level/level.cpp",
       "#include \"level.h\"\n#include \"tables/tide.h\"\nint level() { return tide() + 2; }\n"},
      {"level/tables/tide.cpp", "#include \"tide.h\"\nint tide() { return 5; }\n"},
      {"level/tables/tide.h", "int tide();\n"},
      {"inc/level.h", "int level();\n"},
      {"viewer/viewer.pro", "include(../common.pri)\nSOURCES += main.cpp\nunix:LIBS += -L../level -llevel\n"},
      {"viewer/main.cpp",
       "#include <cstdio>\n#include \"level.h\"\nint main() { std::printf(\"level %d\\n\", level()); }\n"}};
}

TEST(QmakeShapes, projects_are_grouped_and_known_by_their_names) {
  Workspace tree(gauges());
  expect_move_says(tree, "level -> libs/level\nviewer -> programs/viewer\n",
                   {"level.subdir = libs/level", "viewer.subdir = programs/viewer", "-L../../libs/level"},
                   kBuild);
}

TEST(QmakeShapes, a_folder_gets_another_name_than_its_project) {
  Workspace tree(gauges());
  expect_move_says(tree, "level -> water\n", {"level.file = water/level.pro", "-L../water"}, kBuild);
}

TEST(QmakeShapes, sources_and_headers_go_to_folders_of_their_own) {
  Workspace tree(gauges());
  expect_move_keeps_build(
      tree,
      "level/level.cpp -> level/src/level.cpp\nlevel/tables/tide.h -> level/include/tide.h\n"
      "inc -> include/public\n",
      kBuild);
}

TEST(QmakeShapes, an_included_part_moves_with_what_it_names) {
  Workspace tree(gauges());
  expect_move_keeps_build(tree, "common.pri -> build/common.pri\nlevel/tables/tide.cpp -> level/tide.cpp\n",
                          kBuild);
}

TEST(QmakeShapes, what_an_included_part_names_counts_from_the_project) {
  Files files = gauges();
  files[1].second = "CONFIG -= qt\nINCLUDEPATH += ../inc\n";
  files.push_back({"level/parts/tables.pri", "SOURCES += extra/spring.cpp\n"});
  files.push_back({"level/extra/spring.cpp", "int spring() { return 1; }\n"});
  files[2].second += "include(parts/tables.pri)\n";
  Workspace tree(files);
  expect_move_says(tree, "level/extra -> level/parts/extra\ninc -> include\n",
                   {"SOURCES += parts/extra/spring.cpp", "INCLUDEPATH += ../include"}, kBuild);
}

TEST(QmakeShapes, what_a_function_gives_is_held_back) {
  Files files = gauges();
  files[2].second += "SOURCES += $$system(cat names)/tide.cpp\n";
  Workspace tree(files);
  expect_refusal(tree, "level/tables/tide.cpp -> level/spring.cpp\n",
                 {"level/level.pro", "only known when it runs"});
}

}  // namespace
}  // namespace yc::test
