// What programs of a project are given when its build or its tests start them: folders, and the folder that
// they are started in, from which they open files by bare names.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

// Opens the file that its first argument names, and one by its bare name.
const char* const kShow =
    "#include <stdio.h>\nint main(int n, char **words) {\n  return n < 2 || !fopen(words[1], \"r\") || "
    "!fopen(\"levels.txt\", \"r\");\n}\n";

Files with_table(Files scripts) {
  for (const auto& file : Files{{"checks/show.c", kShow}, {"checks/levels.txt", "1\n"}})
    scripts.push_back(file);
  return scripts;
}

TEST(StartedShapes, a_script_of_meson_that_moves_away_from_where_its_tests_are_started) {
  const char* const test = "meson setup b >/dev/null && meson test -C b >/dev/null";
  for (const char* words : {"workdir: meson.current_source_dir(), args: ['levels.txt']",
                            "workdir: here, args: [here / 'levels.txt']",
                            "workdir: meson.current_source_dir(), args: [meson.current_source_dir()],\n"
                            "  env: ['TABLES=' + meson.current_source_dir()]"}) {
    Workspace tree(with_table({{"meson.build", "project('tide', 'c')\nsubdir('checks')\n"},
                               {"checks/meson.build",
                                "here = meson.current_source_dir()\nshow = executable('show', 'show.c')\n"
                                "test('levels', show, " +
                                    std::string(words) + ")\n"}}));
    expect_move_says(tree, "checks/meson.build -> rules/meson.build\n",
                     {"meson.current_source_dir() / '../checks'"}, test);
  }
}

TEST(StartedShapes, a_script_of_cmake_that_moves_away_from_where_its_tests_are_started) {
  for (const char* words :
       {"add_test(NAME levels COMMAND show ${CMAKE_CURRENT_SOURCE_DIR} "
        "WORKING_DIRECTORY ${CMAKE_CURRENT_SOURCE_DIR})\n",
        "add_test(NAME levels COMMAND show levels.txt)\n"
        "set_tests_properties(levels PROPERTIES WORKING_DIRECTORY \"${CMAKE_CURRENT_SOURCE_DIR}\")\n",
        "add_custom_command(TARGET show POST_BUILD COMMAND show levels.txt "
        "WORKING_DIRECTORY ${CMAKE_CURRENT_LIST_DIR})\n"}) {
    Workspace tree(
        with_table({{"CMakeLists.txt",
                     "cmake_minimum_required(VERSION 3.10)\nproject(tide C)\nenable_testing()\n"
                     "add_subdirectory(checks)\n"},
                    {"checks/CMakeLists.txt", "add_executable(show show.c)\n" + std::string(words)}}));
    expect_move_says(tree, "checks/CMakeLists.txt -> rules/CMakeLists.txt\n", {"_DIR}/../checks"},
                     "(cmake -B b . && make -C b && cd b && ctest) >/dev/null 2>&1");
  }
}

TEST(StartedShapes, a_folder_by_its_bare_name) {
  Workspace tree({{"Makefile",
                   "all: show\n\t./show cases\n\tenv LANG=C ./show cases\n\t./show check\n"
                   "show: show.c\n\tcc -o $@ $<\n"},
                  {"show.c",
                   "#include <stdio.h>\n#include <dirent.h>\nint main(int n, char **words) {\n"
                   "  return n < 2 || (words[1][1] != 'h' && !opendir(words[1]));\n}\n"},
                  {"cases/low.txt", "1\n"},
                  {"cases/high.txt", "1\n"},
                  {"check/high.txt", "1\n"}});
  Outcome moved = expect_move_says(tree, "cases -> tests/cases\n",
                                   {"\t./show tests/cases", "LANG=C ./show tests/cases"}, "make -s");
  expect_refusal(tree, "cases/low.txt -> tables/low.txt\n", {"hands cases to a program"});
  // A word that says what to do is no folder.
  moved = expect_move_keeps_build(tree, "check -> checks\n", "make -s");
  EXPECT_NE(moved.out.find("0 edits"), std::string::npos) << moved.told;
}

TEST(StartedShapes, a_bare_folder_that_a_script_is_given_through_other_programs) {
  Workspace tree({{"Makefile",
                   "PYTHON ?= python3\nall:\n\tsh run.sh cases\n\ttimeout 10 sh ./run.sh cases\n"
                   "\t$(PYTHON) run.py --table cases/low.txt\n"},
                  {"run.sh", "test -d \"$1\"\n"},
                  {"run.py", "import sys\nassert open(sys.argv[2]).read()\n"},
                  {"cases/low.txt", "1\n"}});
  expect_move_says(
      tree, "cases -> tests/cases\n",
      {"\tsh run.sh tests/cases", "\ttimeout 10 sh ./run.sh tests/cases", "--table tests/cases/low.txt"},
      "make -s");
}

TEST(StartedShapes, a_file_by_its_bare_name) {
  Workspace tree(with_table(
      {{"Makefile", "all: show\n\tcd checks && ../show levels.txt\nshow: checks/show.c\n\tcc -o $@ $<\n"}}));
  expect_move_says(tree, "checks/levels.txt -> checks/tables/levels.txt\n",
                   {"fopen(\"tables/levels.txt\"", "../show tables/levels.txt"}, "make -s");
  expect_move_keeps_build(tree, "checks -> tests\n", "make -s");
}

TEST(StartedShapes, a_script_that_moves_away_from_where_it_is_started) {
  Workspace tree({{"tests/Makefile", "check:\n\tsh run.sh\n"},
                  {"tests/run.sh", "#!/bin/sh\nset -e\ncat cases/*.txt >/dev/null\n. ./common.sh\n"},
                  {"tests/common.sh", "echo common\n"},
                  {"tests/cases/low.txt", "1\n"}});
  Outcome moved = expect_move_says(tree, "tests/run.sh -> tools/run.sh\n", {"sh ../tools/run.sh", "1 edit"},
                                   "make -s -C tests");
  // With its folder it goes on as it was; so does what it reads.
  expect_move_keeps_build(tree, "tests -> checks\n", "make -s -C $(dirname $(find . -name Makefile))");
  expect_move_says(tree, "tests/common.sh -> tools/common.sh\n", {". ../tools/common.sh"},
                   "make -s -C tests");
}

TEST(StartedShapes, a_script_that_finds_its_own_folder_may_be_started_elsewhere) {
  Workspace tree({{"Makefile", "all:\n\t$(MAKE) -C src\n"},
                  {"src/Makefile", "all:\n\tsh ../tools/gen.sh\n"},
                  {"tools/gen.sh", ". $(dirname $0)/lib.sh\n"},
                  {"tools/lib.sh", "echo lib\n"}});
  expect_move_keeps_build(tree, "src/Makefile -> rules/Makefile\n", "make -s");
  expect_move_keeps_build(tree, "tools/gen.sh -> gen.sh\n", "make -s");
}

TEST(StartedShapes, a_script_that_is_read_in_place_keeps_a_slash) {
  Workspace tree(
      {{"run.sh", "#!/bin/sh\nset -e\n. tools/common.sh\n"}, {"tools/common.sh", "echo common\n"}});
  expect_move_says(tree, "tools/common.sh -> common.sh\n", {". ./common.sh"}, "sh run.sh");
}

TEST(StartedShapes, data_of_a_folder_that_a_program_is_given) {
  Workspace tree(
      {{"Makefile", "all: show\n\t./show tables\n\tcat tables/low.txt\nshow: show.c\n\tcc -o $@ $<\n"},
       {"show.c", "int main(void) { return 0; }\n"},
       {"tables/low.txt", "1\n"},
       {"tables/high.txt", "1\n"}});
  // What else names it does not tell what the program looks for.
  expect_refusal(tree, "tables/low.txt -> low.txt\n", {"hands tables to a program", "Makefile:2"});
  expect_move_says(tree, "tables -> data/tables\n", {"./show data/tables"}, "make -s");
}

TEST(StartedShapes, folders_that_a_command_packs) {
  Workspace tree({{"Makefile",
                   "DIST = Makefile doc scripts\nall: doc/tide.1.in scripts/fill.sed\n"
                   "\tsed -f scripts/fill.sed doc/tide.1.in\ndist:\n\tmkdir -p out\n\tcp -R $(DIST) out\n"},
                  {"doc/tide.1.in", ".TH tide\n"},
                  {"doc/notes.txt", "1\n"},
                  {"scripts/fill.sed", "s/a/b/\n"},
                  {"scripts/more.sed", "s/b/c/\n"}});
  expect_refusal(tree, "doc/tide.1.in -> man/tide.1.in\n",
                 {"Makefile:6:8", "copies or packs doc", "doc/tide.1.in would not be in it any more"});
  const char* const build = "make -s && make -s dist && make -s -C out && rm -r out";
  expect_move_keeps_build(tree, "scripts/fill.sed -> doc/fill.sed\n", build);
  expect_move_keeps_build(tree, "scripts -> doc/scripts\n", build);
}

TEST(StartedShapes, a_folder_that_is_packed_and_given_to_a_program) {
  Workspace tree(
      {{"Makefile", "all: show\n\ttar cf out.tar tables\n\t./show tables\nshow: show.c\n\tcc -o $@ $<\n"},
       {"show.c", "int main(void) { return 0; }\n"},
       {"tables/low.txt", "1\n"},
       {"tables/high.txt", "1\n"}});
  expect_refusal(tree, "tables/low.txt -> tables/ebb.txt\n", {"Makefile:3", "hands tables to a program"});
  expect_refusal(tree, "tables/low.txt -> low.txt\n", {"Makefile:2", "packs tables", "Makefile:3"});
}

TEST(StartedShapes, what_is_made_is_removed_where_it_is_made) {
  Workspace tree(
      {{"Makefile", "all: src/level.o src/wire.o\n%.o: %.c\n\tcc -c -o $@ $<\nclean:\n\trm -f src/*.o\n"},
       {"src/level.c", "int level;\n"},
       {"src/wire.c", "int wire;\n"}});
  expect_move_keeps_build(tree, "src/level.c -> level/level.c\nsrc/wire.c -> wire/wire.c\n", "make -s");
  expect_move_says(tree, "src -> lib/src\n", {"rm -f lib/src/*.o"},
                   "make -s && make -s clean && test -z \"$(find . -name '*.o')\"");
}

TEST(StartedShapes, headers_that_a_recipe_installs_by_a_pattern) {
  Workspace tree({{"Makefile",
                   "install:\n\tinstall -d $(DESTDIR)/usr/include/tide\n"
                   "\tinstall -m 644 tide/*.h $(DESTDIR)/usr/include/tide\n"},
                  {"tide/level.h", "#include \"units.h\"\n"},
                  {"tide/units.h", ""}});
  expect_refusal(tree, "tide/units.h -> core/units.h\n", {"level.h:1:11"});
  expect_move_keeps_build(tree, "tide -> include/tide\n",
                          "make -s install DESTDIR=$PWD/image && echo '#include <tide/level.h>' > user.c && "
                          "cc -fsyntax-only -Iimage/usr/include user.c && rm -r image user.c");
}

// What a script writes goes where it went, as does what ran before may have left it there.
TEST(StartedShapes, what_a_script_writes_outside_of_its_folder) {
  Workspace tree({{"package.json", "{\"type\": \"module\"}\n"},
                  {"tools/copy.py",
                   "import shutil\nfrom pathlib import Path\nROOT = Path(__file__).resolve().parent.parent\n"
                   "OUT = ROOT / \"out\"\nshutil.copytree(ROOT / \"site\", OUT / \"site\")\n"},
                  {"tools/copy.js",
                   "import { cpSync, mkdirSync } from \"node:fs\";\nimport path from \"node:path\";\n"
                   "import { fileURLToPath } from \"node:url\";\n"
                   "const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));\n"
                   "mkdirSync(path.join(root, \"out\"));\ncpSync(path.join(root, \"site\"), "
                   "path.join(root, \"out/site\"), { recursive: true });\n"},
                  {"site/level.html", "level\n"},
                  {"site/station.html", "station\n"}});
  for (const char* kind : {"py", "js"}) {
    const std::string script = "copy." + std::string(kind);
    const std::string run = (script == "copy.py" ? "python3" : "node") + std::string(" $(find . -name ") +
                            script + ") && test -f out/site/level.html";
    const char* edit =
        script == "copy.py" ? "parent.parent.parent" : "path.dirname(path.dirname(path.dirname(";
    expect_move_says(tree, "tools/" + script + " -> web/tools/" + script + "\n", {edit}, run);
    expect_move_keeps_build(tree, "tools -> programs\n", run);
    expect_move_keeps_build(tree, "site -> web/site\n", run);
  }
}

// What bats sets, loads and runs.
TEST(StartedShapes, tests_that_bats_runs) {
  Workspace tree(
      {{"tests/show.bats",
        "#!/usr/bin/env bats\nload helper\nload 'lib/more'\nsetup() {\n  cd "
        "\"$BATS_TEST_DIRNAME/..\"\n  FIX=\"$BATS_TEST_DIRNAME/fixtures\"\n}\n"
        "@test \"shows a level\" {\n  run bin/show \"$FIX/one.txt\"\n  [ \"$output\" = \"1\" ]\n"
        "  greet\n  more\n}\n"},
       {"tests/helper.bash", "greet() { cat \"${BATS_TEST_DIRNAME}/../data/low.txt\"; }\n"},
       {"tests/lib/more.bash", "more() { cat \"$BATS_TEST_DIRNAME/lib/words.txt\"; }\n"},
       {"tests/lib/words.txt", "w\n"},
       {"tests/fixtures/one.txt", "1\n"},
       {"bin/show",
        "#!/bin/bash\nroot=\"$(cd -- \"$(dirname -- \"${BASH_SOURCE[0]}\")/..\" >/dev/null 2>&1 && pwd "
        "-P)\"\nfor f in level words; do\n  source \"$root/lib/$f.sh\"\ndone\nlevel \"$1\"\n"},
       {"lib/level.sh", "level() { cat \"$1\"; }\n"},
       {"lib/words.sh", "words() { cat \"$(dirname \"$0\")/../data/low.txt\"; }\n"},
       {"data/low.txt", "1\n"}});
  const std::string run =
      "chmod +x $(find . -name show) && bats $(dirname $(find . -name show.bats)) > /dev/null";
  expect_move_says(tree, "tests/helper.bash -> tests/lib/helper.bash\n", {"load lib/helper"}, run);
  expect_move_says(tree, "tests/fixtures -> data/fixtures\n", {"$BATS_TEST_DIRNAME/../data/fixtures"}, run);
  expect_move_keeps_build(tree, "tests/lib -> tests/deep/lib\n", run);
  expect_move_says(tree, "lib/level.sh -> lib/water.sh\n", {"for f in water words; do"}, run);
  expect_move_says(tree, "tests -> checks/bats\n", {"\"$BATS_TEST_DIRNAME/../..\""}, run);
  expect_move_keeps_build(tree, "bin -> tools/bin\n", run);
  expect_move_keeps_build(tree, "data/low.txt -> data/ebb.txt\n", run);
}

}  // namespace
}  // namespace yc::test
