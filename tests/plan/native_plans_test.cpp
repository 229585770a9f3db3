// Plans for trees of C with build scripts, a table: what moves, and every edit that follows.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;

const char* const kCMake = "cmake_minimum_required(VERSION 3.16)\nproject(tide C)\n";

TEST(NativePlans, make) {
  const std::string rule = "\n\t$(CC) -o $@ $^\n";
  expect_edits({
      {"a path glued to the text of an option",
       {{"Makefile",
         "LDFLAGS = -Wl,--version-script=tide.map -Wl,-T,link/tide.ld\np: a.o\n\t$(CC) $(LDFLAGS) -o $@ "
         "$^\n"},
        {"a.c", ""},
        {"tide.map", ""},
        {"link/tide.ld", ""}},
       {{"tide.map", "link/tide.map"}},
       {"Makefile: tide.map -> link/tide.map ?"}},
      {"a fragment whose paths are relative to who includes it",
       {{"Makefile", "include mk/list.mk\np: $(OBJ)" + rule},
        {"mk/list.mk", "OBJ = src/a.o src/b.o\n"},
        {"src/a.c", ""},
        {"src/b.c", ""}},
       {{"src/b.c", "src/net/b.c"}, {"mk/list.mk", "build/list.mk"}},
       {"Makefile: mk/list.mk -> build/list.mk", "mk/list.mk: src/b -> src/net/b"}},
      {"a root held in a variable",
       {{"Makefile", "TOP = .\nS = $(TOP)/src\np: $(S)/a.o" + rule}, {"src/a.c", ""}, {"src/b.c", ""}},
       {{"src", "lib/src"}},
       {"Makefile: . -> lib"}},
      {"an object that the compiler names after its source keeps its name",
       {{"Makefile", "p: level.o\n\t$(CC) -o p level.o\nlevel.o:\n\t$(CC) $(CFLAGS) -c level.c\n"},
        {"level.c", ""}},
       {{"level.c", "water.c"}},
       {"Makefile: level.c -> water.c", "Makefile:  ->  -o level.o"}},
      {"a product of the same name that another makefile names after the source stays apart",
       {{"Makefile", "OBJ = a.o level.o\nall: $(OBJ)\n\tld $(OBJ)\n$(OBJ): %.o: %.c\n\t$(CC) -c -o $@ $<\n"},
        {"shared.mk",
         "p: level.o\n\t$(CC) -o p level.o\nlevel.o: level.c\n\t$(CC) -fPIC -c level.c -o level.o\n"},
        {"a.c", ""},
        {"level.c", ""}},
       {{"level.c", "water.c"}},
       {"Makefile: level -> water", "shared.mk: level.c -> water.c", "shared.mk: level.c -> water.c"}},
      {"a makefile of another name that a call names",
       {{"Makefile", "all:\n\t$(MAKE) -f rules/tide.mk\n"},
        {"rules/tide.mk", "x:\n\tcat src/a.txt\n"},
        {"src/a.txt", ""}},
       {{"rules/tide.mk", "mk/tide.mk"}},
       {"Makefile: rules/tide.mk -> mk/tide.mk"}},
  });
}

// Who writes a file of the build tree and who reads it go on meeting there.
// A folder that moves whole is followed in every pattern that names it.
TEST(NativePlans, folders_before_a_percent_sign) {
  const std::string rule = "\n\tcc -c $< -o $@\n", link = "all: $(OBJ)\n\tcc -o t $(OBJ)\n";
  const TreeFiles sources = {{"src/a.c", ""}, {"src/b.c", ""}};
  auto with = [&](const std::string& script) {
    TreeFiles out = sources;
    out.emplace_back("Makefile", script);
    return out;
  };
  expect_edits({
      {"a rule for many, objects beside sources",
       with("OBJ = src/a.o src/b.o\n" + link + "$(OBJ): src/%.o: src/%.c" + rule),
       {{"src", "core"}},
       {"Makefile: src/a.o -> core/a.o", "Makefile: src/b.o -> core/b.o", "Makefile: src/ -> core/",
        "Makefile: src/ -> core/"}},
      {"objects in a folder of their own",
       with("SRC = $(wildcard src/*.c)\nOBJ = $(SRC:src/%.c=obj/%.o)\n" + link +
            "obj/%.o: src/%.c\n\tmkdir -p obj" + rule),
       {{"src", "core"}},
       {"Makefile: src/*.c -> core/*.c", "Makefile: src/ -> core/", "Makefile: src/ -> core/"}},
      {"names that are taken out of paths, and looked up again",
       {{"Makefile",
         "SRC = src/a.c lib/b.c\nVPATH = src lib\nOBJ = $(notdir $(SRC:.c=.o))\n" + link + "%.o: %.c" + rule},
        {"src/a.c", ""},
        {"lib/b.c", ""}},
       {{"lib", "extra/lib"}},
       {"Makefile: lib/b.c -> extra/lib/b.c ?", "Makefile: lib -> extra/lib"}},
      {"a text that only equals the new folder",
       {{"Makefile",
         "INCLUDE_PATH ?= include/lib\nall:\n\tcc -o t main.c\ninstall:\n\tmkdir -p "
         "$(DESTDIR)/usr/$(INCLUDE_PATH)\n"},
        {"main.c", "#include \"lib/a.h\"\n"},
        {"lib/a.h", ""}},
       {{"lib", "include/lib"}},
       {"main.c: lib/a.h -> include/lib/a.h"}},
  });
}

// Each was once "verified", and the build failed.
TEST(NativePlans, what_make_would_stop_at) {
  const std::string rule = "%.o: %.c\n\tcc -c $< -o $@\n", link = "all: $(OBJ)\n\tcc -o t $(OBJ)\n";
  TreeFiles loop = {{"Makefile",
                     "DIRS = src src/net\nSRC = $(foreach d,$(DIRS),$(wildcard $(d)/*.c))\nOBJ = main.o "
                     "$(SRC:.c=.o)\n" +
                         link + rule},
                    {"main.c", ""},
                    {"src/a.c", ""},
                    {"src/b.c", ""},
                    {"src/net/n.c", ""}};
  EXPECT_THAT(reasons(planned(loop, {{"main.c", "src/main.c"}})), Contains("unmade-object Makefile"));
  EXPECT_THAT(reasons(planned(loop, {{"src/a.c", "core/a.c"}})), Contains("doubled-object Makefile"));
  TreeFiles parts = {{"Makefile", "all: lib\n\tcc -o t main.c src/libs.a\nlib:\n\t$(MAKE) -C src\n"},
                     {"src/Makefile", "OBJ = a.o net/n.o\nlibs.a: $(OBJ)\n\tar rcs $@ $(OBJ)\n"},
                     {"main.c", ""},
                     {"src/a.c", ""},
                     {"src/net/n.c", ""}};
  EXPECT_THAT(reasons(planned(parts, {{"src/net", "lib/net"}})), ElementsAre("shadowed-target Makefile"));
  parts[0].second += ".PHONY: lib\n";
  EXPECT_THAT(edits(planned(parts, {{"src/net", "lib/net"}})),
              ElementsAre("src/Makefile: net/n -> ../lib/net/n"));
}

TEST(NativePlans, what_is_written_into_the_build_tree) {
  const std::string top = kCMake + std::string(
                                       "function(turn in out)\n  file(READ ${in} text)\n  file(WRITE ${out} "
                                       "${text})\nendfunction()\nadd_subdirectory(src/tools)\n");
  const std::string made = "\"${PROJECT_BINARY_DIR}/src/tools/list.cmake\"";
  expect_edits({
      {"by a function, and read from there",
       {{"CMakeLists.txt", top},
        {"src/tools/CMakeLists.txt",
         "turn(list.inc " + made + ")\ninclude(" + made + ")\nadd_executable(t t.c)\n"},
        {"src/tools/list.inc", ""},
        {"src/tools/t.c", ""}},
       {{"src/tools", "programs"}},
       {"CMakeLists.txt: src/tools -> programs",
        "src/tools/CMakeLists.txt: /src/tools/list.cmake -> /programs/list.cmake",
        "src/tools/CMakeLists.txt: /src/tools/list.cmake -> /programs/list.cmake"}},
  });
}

// CMake asks for a folder of the build tree for what is not below the script that adds it.
TEST(NativePlans, folders_that_are_added_from_beside) {
  auto with = [&](const std::string& command) {
    return TreeFiles{{"CMakeLists.txt", kCMake + std::string("add_subdirectory(test)\n")},
                     {"test/CMakeLists.txt", command},
                     {"test/parsing/CMakeLists.txt", "add_executable(p p.c)\n"},
                     {"test/parsing/p.c", ""}};
  };
  const TreeMoves moves = {{"test/parsing", "checks/parsing"}};
  expect_edits({
      {"the folder leaves",
       with("add_subdirectory(parsing)\n"),
       moves,
       {"test/CMakeLists.txt: parsing -> ../checks/parsing ../checks/parsing"}},
      {"in quotes, with an option",
       with("add_subdirectory(\"parsing\" EXCLUDE_FROM_ALL)\n"),
       moves,
       {"test/CMakeLists.txt: \"parsing\" -> \"../checks/parsing\" \"../checks/parsing\""}},
      {"the script leaves",
       with("add_subdirectory(parsing)\n"),
       {{"test/CMakeLists.txt", "build/CMakeLists.txt"}},
       {"CMakeLists.txt: test -> build", "test/CMakeLists.txt: parsing -> ../test/parsing ../test/parsing"}},
      {"one that is named already",
       with("add_subdirectory(parsing out)\n"),
       moves,
       {"test/CMakeLists.txt: parsing -> ../checks/parsing"}},
      {"below the script",
       with("add_subdirectory(parsing)\n"),
       {{"test/parsing", "test/deep/parsing"}},
       {"test/CMakeLists.txt: parsing -> deep/parsing"}},
  });
  EXPECT_THAT(reasons(planned(with("set(D parsing)\nadd_subdirectory(${D})\n"), moves)),
              ElementsAre("build-folder test/CMakeLists.txt"));
}

TEST(NativePlans, a_file_that_leaves_what_is_copied) {
  Plan plan =
      planned({{"CMakeLists.txt", kCMake + std::string("add_executable(gauge gauge.c)\nfile(COPY data "
                                                       "DESTINATION .)\n")},
               {"gauge.c", "const char* t = \"data/tides.csv\";\n"},
               {"data/tides.csv", ""},
               {"data/levels.csv", ""}},
              {{"data/tides.csv", "tables/tides.csv"}});
  EXPECT_THAT(reasons(plan), ElementsAre("lost gauge.c"));
  EXPECT_EQ(plan.blockers[0].reason,
            "leads to data/tides.csv, and is opened in the build tree, where CMakeLists.txt copies it from "
            "there alone");
}

// Conditionals one after the other that set one variable: whichever holds, its files are meant.
TEST(NativePlans, values_that_later_conditionals_replace) {
  const TreeFiles sources = {{"a.c", ""},
                             {"os/tide.h", ""},
                             {"os/lin.c", "#include \"tide.h\"\n"},
                             {"os/win.c", "#include \"tide.h\"\n"},
                             {"os/mac.c", "#include \"tide.h\"\n"}};
  auto with = [&](TreeFiles scripts) {
    scripts.insert(scripts.end(), sources.begin(), sources.end());
    return scripts;
  };
  const TreeMoves moves = {{"os/lin.c", "os/linux.c"}, {"os/win.c", "os/windows.c"}};
  expect_edits({
      {"cmake",
       with({{"CMakeLists.txt",
              kCMake + std::string("if(UNIX)\n  set(OS os/lin.c)\nendif()\nif(WIN32)\n  set(OS "
                                   "os/win.c)\nendif()\nif(APPLE)\n  set(OS os/mac.c)\nendif()\n"
                                   "add_library(tide a.c ${OS})\n")}}),
       moves,
       {"CMakeLists.txt: os/lin.c -> os/linux.c", "CMakeLists.txt: os/win.c -> os/windows.c"}},
      {"cmake, from a function and from a folder",
       with(
           {{"CMakeLists.txt",
             kCMake + std::string(
                          "function(pick out)\n  if(UNIX)\n    set(${out} os/lin.c "
                          "PARENT_SCOPE)\n  endif()\nendfunction()\npick(OS)\nif(APPLE)\n  set(OS "
                          "os/mac.c)\nendif()\nadd_subdirectory(os)\nadd_library(tide a.c ${OS} ${MORE})\n")},
            {"os/CMakeLists.txt",
             "if(WIN32)\n  set(MORE os/win.c PARENT_SCOPE)\nendif()\nif(BEOS)\n  set(MORE a.c "
             "PARENT_SCOPE)\nendif()\n"}}),
       moves,
       {"CMakeLists.txt: os/lin.c -> os/linux.c", "os/CMakeLists.txt: os/win.c -> os/windows.c"}},
      {"meson",
       with({{"meson.build",
              "project('t', 'c')\nif host_machine.system() == 'linux'\n  os = 'os/lin.c'\nendif\nif "
              "host_machine.system() == 'windows'\n  os = 'os/win.c'\nendif\nif host_machine.system() == "
              "'darwin'\n  os = files('os/mac.c')\nendif\nlibrary('tide', 'a.c', os)\n"}}),
       moves,
       {"meson.build: os/lin.c -> os/linux.c", "meson.build: os/win.c -> os/windows.c"}},
      {"make",
       with({{"Makefile",
              "ifeq ($(OS),Linux)\nOBJ = os/lin.o\nendif\nifeq ($(OS),Windows)\nOBJ = os/win.o\nendif\nifeq "
              "($(OS),Darwin)\nOBJ = os/mac.o\nendif\ntide: a.o $(OBJ)\n\t$(CC) -o $@ $^\n"}}),
       moves,
       {"Makefile: os/lin -> os/linux", "Makefile: os/win -> os/windows"}},
      {"automake, through other variables",
       with(
           {{"configure.ac",
             "AC_INIT([tide], [1])\nAM_INIT_AUTOMAKE([foreign subdir-objects])\nAC_CONFIG_FILES([Makefile])\n"
             "AC_OUTPUT\n"},
            {"Makefile.am",
             "LIN = os/lin.c\nWIN = os/win.c\nif LINUX\nOS_SRC = $(LIN)\nendif\nif WINDOWS\nOS_SRC = "
             "$(WIN)\nendif\nif MAC\nOS_SRC = os/mac.c\nendif\nlib_LIBRARIES = libtide.a\nlibtide_a_SOURCES "
             "= "
             "a.c $(OS_SRC)\n"}}),
       {{"os/tide.h", "api/tide.h"}},
       {"os/lin.c: tide.h -> api/tide.h", "os/mac.c: tide.h -> api/tide.h",
        "os/win.c: tide.h -> api/tide.h"}},
  });
}

// A backslash of another shell, which this one takes for a mark before the first letter of a name.
TEST(NativePlans, recipes_that_take_names_apart) {
  expect_edits({{"by characters",
                 {{"Makefile",
                   "p: tide.o level.o\ntide.o: n.c\n\t$(CC) -c arm\\$*.c\nlevel.o: n.c\n\t$(CC) -c "
                   "arm\\$(@:.o=.c)\n"},
                  {"n.c", ""}},
                 {{"n.c", "m.c"}},
                 {"Makefile: n.c -> m.c", "Makefile: n.c -> m.c"}}});
}

// A program that is started in the build tree opens what a script has copied there.
TEST(NativePlans, copiesInTheBuildTree) {
  const std::string program = "add_executable(gauge src/gauge.c)\n";
  const char* const opens =
      "#define DATA \"data/\"\nconst char* t = \"data/tides.csv\";\n"
      "const char* u = DATA \"levels.csv\";\n";
  auto with = [&](const std::string& script) {
    return TreeFiles{{"CMakeLists.txt", kCMake + program + script},
                     {"src/gauge.c", opens},
                     {"data/tides.csv", ""},
                     {"data/levels.csv", ""}};
  };
  const std::string binary = "${CMAKE_CURRENT_BINARY_DIR}";
  expect_edits({
      {"a folder by a command, under a name that stays",
       with("add_custom_command(TARGET gauge POST_BUILD COMMAND ${CMAKE_COMMAND} -E copy_directory "
            "${CMAKE_CURRENT_SOURCE_DIR}/data " +
            binary + "/data)\n"),
       {{"data", "assets/data"}},
       {"CMakeLists.txt: /data -> /assets/data ?"}},
      {"a folder beside the program",
       with("add_custom_command(TARGET gauge POST_BUILD COMMAND ${CMAKE_COMMAND} -E copy_directory "
            "${CMAKE_SOURCE_DIR}/data $<TARGET_FILE_DIR:gauge>/data)\n"),
       {{"data", "assets/tables"}},
       {"CMakeLists.txt: /data -> /assets/tables ?"}},
      {"a folder under its own name, which changes",
       with("file(COPY data DESTINATION " + binary + ")\n"),
       {{"data", "assets/tables"}},
       {"CMakeLists.txt: data -> assets/tables", "src/gauge.c: data/ -> tables/ ?",
        "src/gauge.c: data/tides.csv -> tables/tides.csv ?"}},
      {"files by a pattern",
       with("file(GLOB tables \"data/*.csv\")\nfile(COPY ${tables} DESTINATION \"" + binary + "/data/\")\n"),
       {{"data", "assets/data"}},
       {"CMakeLists.txt: data/*.csv -> assets/data/*.csv"}},
      {"a file that is filled in",
       with("configure_file(data/tides.csv data/tides.csv COPYONLY)\n"
            "configure_file(data/levels.csv data/levels.csv COPYONLY)\n"),
       {{"data/tides.csv", "tables/tides.csv"}},
       {"CMakeLists.txt: data/tides.csv -> tables/tides.csv"}},
      {"what is written into a copied folder",
       {{"CMakeLists.txt", kCMake + program + "file(COPY data DESTINATION " + binary + ")\n"},
        {"src/gauge.c", "const char* t = \"./data/out/day.csv\";\n"},
        {"data/out/keep", ""}},
       {{"data", "assets/data"}},
       {"CMakeLists.txt: data -> assets/data"}},
      {"what is written into a copied folder that is renamed",
       {{"CMakeLists.txt", kCMake + program + "file(COPY data DESTINATION " + binary + ")\n"},
        {"src/gauge.c", "const char* t = \"./data/out/day.csv\";\n"},
        {"data/out/keep", ""}},
       {{"data", "assets"}},
       {"CMakeLists.txt: data -> assets", "src/gauge.c: ./data/out -> ./assets/out ?"}},
      {"a command of Meson whose program is looked for",
       {{"meson.build",
         "project('t', 'c')\ncopy = find_program('cp')\nrun_command(copy, ['-r', "
         "meson.current_source_dir() / 'data', meson.current_build_dir()])\n"
         "executable('gauge', 'src/gauge.c')\n"},
        {"src/gauge.c", opens},
        {"data/tides.csv", ""},
        {"data/levels.csv", ""}},
       {{"data", "assets/data"}},
       {"meson.build: data -> assets/data ?"}},
      {"a file that Meson copies",
       {{"meson.build", "project('t', 'c')\nfs = import('fs')\nsubdir('src')\n"},
        {"src/meson.build",
         "fs.copyfile('../data/tides.csv', 'tides.csv')\nexecutable('gauge', 'gauge.c')\n"},
        {"src/gauge.c", "const char* t = \"src/tides.csv\";\n"},
        {"data/tides.csv", ""}},
       {{"data/tides.csv", "tables/tides.csv"}},
       {"src/meson.build: ../data/tides.csv -> ../tables/tides.csv"}},
      {"what a test is handed is no copy",
       {{"CMakeLists.txt",
         kCMake + program +
             "find_program(PY python3)\nadd_test(NAME t COMMAND ${PY} "
             "${CMAKE_CURRENT_SOURCE_DIR}/data/tides.csv ${CMAKE_CURRENT_BINARY_DIR}/out)\n"},
        {"src/gauge.c", "const char* t = \"data/tides.csv\";\n"},
        {"data/tides.csv", ""}},
       {{"data/tides.csv", "tables/tides.csv"}},
       {"CMakeLists.txt: /data/tides.csv -> /tables/tides.csv ?",
        "src/gauge.c: data/tides.csv -> tables/tides.csv ?"}},
      {"no copy",
       with(""),
       {{"data", "assets/data"}},
       {"src/gauge.c: data/ -> assets/data/ ?", "src/gauge.c: data/tides.csv -> assets/data/tides.csv ?"}},
  });
}

TEST(NativePlans, a_copy_whose_name_is_put_together) {
  const TreeFiles files = {
      {"CMakeLists.txt", kCMake + std::string("add_subdirectory(checks)\n")},
      {"checks/CMakeLists.txt",
       "add_executable(gauge gauge.c)\nfile(GLOB tables \"data/*\")\nfile(COPY ${tables} DESTINATION "
       "\"${CMAKE_CURRENT_BINARY_DIR}/data/\")\n"},
      {"checks/gauge.c",
       "#define DATA \"data/\"\nvoid f(char* p, char* n) { sprintf(p, DATA \"%s.csv\", n); }\n"},
      {"checks/data/tides.csv", ""},
      {"checks/data/notes.txt", ""}};
  EXPECT_THAT(reasons(planned(files, {{"checks/data/tides.csv", "checks/data/levels.csv"}})),
              ElementsAre("unseen checks/gauge.c"));
  EXPECT_THAT(edits(planned(files, {{"checks/data/notes.txt", "checks/data/more.txt"}})), IsEmpty());
  EXPECT_THAT(edits(planned(files, {{"checks/data", "tables/data"}})),
              ElementsAre("checks/CMakeLists.txt: data/* -> ../tables/data/*"));
}

TEST(NativePlans, cmake) {
  expect_edits({
      {"a source of two targets is edited in both",
       {{"CMakeLists.txt", std::string(kCMake) + "add_executable(a a.c c.c)\nadd_executable(b b.c c.c)\n"},
        {"a.c", ""},
        {"b.c", ""},
        {"c.c", ""}},
       {{"c.c", "src/c.c"}},
       {"CMakeLists.txt: c.c -> src/c.c", "CMakeLists.txt: c.c -> src/c.c"}},
      {"a path within the text of an option, in a variable that every linker call gets",
       {{"CMakeLists.txt",
         std::string(kCMake) +
             "set(CMAKE_SHARED_LINKER_FLAGS \"${CMAKE_SHARED_LINKER_FLAGS} "
             "-Wl,--version-script,${CMAKE_CURRENT_SOURCE_DIR}/tide.map\")\nadd_library(t SHARED a.c)\n"},
        {"a.c", ""},
        {"tide.map", ""}},
       {{"tide.map", "link/tide.map"}},
       {"CMakeLists.txt: /tide.map -> /link/tide.map"}},
      {"a header that is copied to where it is looked for",
       {{"CMakeLists.txt",
         std::string(kCMake) +
             "file(COPY ${CMAKE_CURRENT_SOURCE_DIR}/src/t.h DESTINATION "
             "${CMAKE_CURRENT_BINARY_DIR}/include)\n"
             "include_directories(${CMAKE_CURRENT_BINARY_DIR}/include)\nadd_executable(a a.c)\n"},
        {"a.c", "#include <t.h>\n"},
        {"src/t.h", ""}},
       {{"src/t.h", "api/t.h"}, {"a.c", "core/a.c"}},
       {"CMakeLists.txt: /src/t.h -> /api/t.h", "CMakeLists.txt: a.c -> core/a.c"}},
      {"what a target is made into could be no file of the tree",
       {{"CMakeLists.txt", std::string(kCMake) +
                               "add_library(t a.c)\ninstall(FILES \"$<TARGET_FILE_DIR:t>/${LINK}a${SUFFIX}\" "
                               "DESTINATION lib)\n"},
        {"a.c", ""},
        {"data/a.txt", ""}},
       {{"data/a.txt", "tables/a.txt"}},
       {}},
      {"a folder to search, among the flags of a language",
       {{"CMakeLists.txt", std::string(kCMake) +
                               "string(APPEND CMAKE_C_FLAGS \" -Wall -I${CMAKE_SOURCE_DIR}/include\")\n"
                               "add_executable(a a.c)\n"},
        {"a.c", "#include \"tide.h\"\n"},
        {"include/tide.h", ""}},
       {{"include", "api/include"}},
       {"CMakeLists.txt: /include -> /api/include"}},
      {"options of a target's linker",
       {{"CMakeLists.txt", std::string(kCMake) +
                               "add_library(t SHARED a.c)\nset_target_properties(t PROPERTIES LINK_FLAGS "
                               "\"-Wl,-T,${PROJECT_SOURCE_DIR}/t.ld -Wl,--gc-sections\")\n"},
        {"a.c", ""},
        {"t.ld", ""}},
       {{"t.ld", "link/t.ld"}},
       {"CMakeLists.txt: /t.ld -> /link/t.ld"}},
      {"generator expressions keep what stands around",
       {{"CMakeLists.txt", std::string(kCMake) + "add_executable(a a.c $<$<BOOL:${WET}>:wet.c>)\n"},
        {"a.c", ""},
        {"wet.c", ""}},
       {{"wet.c", "src/wet.c"}},
       {"CMakeLists.txt: wet.c -> src/wet.c"}},
      {"a version read by a script, and a script that is run",
       {{"CMakeLists.txt",
         std::string(kCMake) +
             "file(STRINGS include/v.h LINES REGEX \"VERSION\")\nfind_program(PY python3)\n"
             "add_custom_command(OUTPUT g.c COMMAND ${PY} ${CMAKE_CURRENT_SOURCE_DIR}/tools/g.py "
             "DEPENDS tools/g.py)\nadd_executable(a g.c)\n"},
        {"include/v.h", "#define VERSION 1\n"},
        {"tools/g.py", ""}},
       {{"include/v.h", "src/v.h"}, {"tools", "scripts"}},
       {"CMakeLists.txt: include/v.h -> src/v.h", "CMakeLists.txt: /tools/g.py -> /scripts/g.py ?",
        "CMakeLists.txt: tools/g.py -> scripts/g.py"}},
      {"tests that are started in a folder of the tree",
       {{"CMakeLists.txt",
         std::string(kCMake) +
             "enable_testing()\nadd_executable(t t.c)\nadd_test(NAME t COMMAND t data/a.txt\n  "
             "WORKING_DIRECTORY ${CMAKE_CURRENT_SOURCE_DIR}/tests)\n"},
        {"t.c", ""},
        {"tests/data/a.txt", ""},
        {"tests/data/b.txt", ""}},
       {{"tests/data/a.txt", "tests/tables/a.txt"}},
       {"CMakeLists.txt: data/a.txt -> tables/a.txt ?"}},
  });
}

TEST(NativePlans, meson) {
  expect_edits({
      {"a folder held in a variable and joined",
       {{"meson.build", "project('t', 'c')\nd = 'src'\nexecutable('a', d / 'a.c', join_paths(d, 'b.c'))\n"},
        {"src/a.c", ""},
        {"src/b.c", ""}},
       {{"src", "lib"}},
       {"meson.build: src -> lib"}},
      {"files given by name, and added to a list",
       {{"meson.build",
         "project('t', 'c')\ns = files('a.c')\ns += files(\n  'b.c',\n)\nexecutable('a', s)\n"},
        {"a.c", ""},
        {"b.c", ""}},
       {{"b.c", "src/b.c"}},
       {"meson.build: b.c -> src/b.c"}},
      {"a map given to the linker",
       {{"meson.build",
         "project('t', 'c')\nm = meson.current_source_dir() / 'tide.map'\n"
         "library('t', 'a.c', link_args: '-Wl,--version-script=' + m, link_depends: 'tide.map')\n"},
        {"a.c", ""},
        {"tide.map", ""}},
       {{"tide.map", "link/tide.map"}},
       {"meson.build: tide.map -> link/tide.map ?", "meson.build: tide.map -> link/tide.map"}},
  });
}

TEST(NativePlans, scripts_and_side_files) {
  expect_edits({
      {"a script that finds its own folder",
       {{"tools/run.sh", "#!/bin/sh\ncd \"$(dirname \"$0\")/..\"\ncat data/a.txt\n"}, {"data/a.txt", ""}},
       {{"data/a.txt", "tables/a.txt"}},
       {"tools/run.sh: data/a.txt -> tables/a.txt ?"}},
      {"the script moves to another depth",
       {{"tools/run.sh", "#!/bin/sh\n. \"$(dirname \"$0\")/lib.sh\"\n"}, {"tools/lib.sh", "x=1\n"}},
       {{"tools/run.sh", "bin/in/run.sh"}},
       {"tools/run.sh: /lib.sh -> /../../tools/lib.sh"}},
      {"both separators in a batch script",
       {{"run.bat", "@echo off\r\ntype data\\a.txt\r\ncall tools/x.bat\r\n"},
        {"data/a.txt", ""},
        {"tools/x.bat", ""}},
       {{"data", "tables"}, {"tools", "scripts"}},
       {"run.bat: data\\a.txt -> tables\\a.txt ?", "run.bat: tools/x.bat -> scripts/x.bat"}},
      {"a header that a macro of others will make",
       {{"configure.ac", "AC_INIT([tide],[1])\nAX_NEED_STDINT_H([lib/_stdint.h])\nAC_OUTPUT\n"},
        {"lib/a.h", "#include <lib/_stdint.h>\n"},
        {"lib/b.h", ""}},
       {{"lib", "core"}},
       {"configure.ac: lib/_stdint.h -> core/_stdint.h ?"}},
      {"what automake tells the tests that it runs",
       {{"configure.ac", "AC_INIT([tide],[1])\n"},
        {"tests/a.sh", "#!/bin/sh\ngrep level $top_srcdir/src/tide.def\n"},
        {"src/tide.def", ""}},
       {{"src/tide.def", "src/win/tide.def"}},
       {"tests/a.sh: /src/tide.def -> /src/win/tide.def ?"}},
  });
}

TEST(NativePlans, every_source_of_a_folder_can_leave_a_list_at_once) {
  TreeFiles files = {
      {"Makefile", "OBJ = $(patsubst %.c,%.o,$(SRC))\nSRC = a.c b.c c.c\np: $(OBJ)\n\t$(CC) -o $@ $(OBJ)\n"},
      {"a.c", ""},
      {"b.c", ""},
      {"c.c", ""}};
  EXPECT_THAT(edits(planned(files, {{"a.c", "x/a.c"}, {"b.c", "y/b.c"}, {"c.c", "z/c.c"}})),
              ElementsAre("Makefile: a -> x/a", "Makefile: b -> y/b", "Makefile: c -> z/c"));
}

TEST(NativePlans, what_moves_whole_needs_no_edit) {
  TreeFiles files = {{"Makefile", "CPPFLAGS = -Iinc\np: src/a.o\n\t$(CC) -o $@ $^\n"},
                     {"src/a.c", "#include \"a.h\"\n"},
                     {"inc/a.h", ""}};
  EXPECT_THAT(edits(planned(files, {{"Makefile", "p/Makefile"}, {"src", "p/src"}, {"inc", "p/inc"}})),
              IsEmpty());
}

}  // namespace
}  // namespace yc::test
