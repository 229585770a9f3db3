// A folder gets its own build script and gives it back: each project is built before and after, and undo
// gives the tree back to the byte.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const char* const kMain =
    "#include <stdio.h>\n#include \"level.h\"\nint main(void) { printf(\"%d\\n\", level()); return 0; }\n";
const char* const kLevel = "#include \"level.h\"\nint level(void) { return 7; }\n";
const char* const kHeader = "int level(void);\n";
const std::string kMeson =
    "meson setup out >/dev/null && ninja -C out >/dev/null && find out -name station -type f -exec {} \\;";
const std::string kCMake =
    "cmake -S . -B out >/dev/null && cmake --build out >/dev/null && find out -name station -type f -exec {} "
    "\\;";
const std::string kMake = "make -s && ./station && make -s clean";

Files with(Files files) {
  for (const char* folder : {"src/", "lib/"})
    files.push_back({std::string(folder) + "level.c", kLevel}),
        files.push_back({std::string(folder) + "level.h", kHeader});
  files.push_back({"src/main.c", kMain});
  files.push_back({"main.c", kMain});
  return files;
}

struct Scripts {
  std::string above, own;  // after carving
};

// Carves, builds, looks at both scripts, folds, builds again, and undoes both.
void expect_carved(const Files& files, const std::string& folder, const std::string& build,
                   const std::string& above, const std::string& own, const Scripts& expected) {
  Workspace tree(with(files));
  Outcome before = tree.shell(build);
  ASSERT_EQ(before.status, 0) << before.told;
  tree.shell("rm -rf out");
  auto first = tree.contents();
  Outcome carved = tree.run({"carve", folder});
  ASSERT_EQ(carved.status, 0) << carved.told;
  EXPECT_EQ(tree.read(above), expected.above);
  EXPECT_EQ(tree.read(own), expected.own);
  Outcome after = tree.shell(build);
  EXPECT_EQ(after.out, before.out) << after.told;
  tree.shell("rm -rf out");
  Outcome folded = tree.run({"carve", "--fold", folder});
  ASSERT_EQ(folded.status, 0) << folded.told;
  EXPECT_FALSE(tree.exists(own));
  Outcome again = tree.shell(build);
  EXPECT_EQ(again.out, before.out) << again.told;
  tree.shell("rm -rf out");
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  EXPECT_EQ(tree.contents(), first);
}

TEST(CarveShapes, meson_program_with_its_list) {
  expect_carved(
      {{"meson.build",
        "project('tide', 'c')\n\n# The station.\nsources = [\n  'src/main.c', # start\n  'src/level.c',\n]\n"
        "exe = executable('station', sources)\ntest('runs', exe)\n"}},
      "src", kMeson, "meson.build", "src/meson.build",
      {"project('tide', 'c')\n\nsubdir('src')\ntest('runs', exe)\n",
       "# The station.\nsources = [\n  'main.c', # start\n  'level.c',\n]\n"
       "exe = executable('station', sources)\n"});
}

TEST(CarveShapes, meson_list_of_several_folders_is_split) {
  expect_carved({{"meson.build",
                  "project('tide', 'c')\nexecutable('station', 'main.c', 'lib/level.c', include_directories: "
                  "'lib')\n"}},
                "lib", kMeson, "meson.build", "lib/meson.build",
                {"project('tide', 'c')\nsubdir('lib')\nexecutable('station', 'main.c', lib_sources, "
                 "include_directories: 'lib')\n",
                 "lib_sources = files(\n  'level.c',\n)\n"});
}

TEST(CarveShapes, meson_condition_comes_along_and_order_of_definition_is_kept) {
  expect_carved(
      {{"meson.build",
        "project('tide', 'c')\nlevel_src = ['lib/level.c']\nopts = ['-DX=1']\n"
        "if host_machine.system() == 'dos'\n  level_src += 'lib/dos.c'\nendif\n"
        "level = static_library('level', level_src, c_args: opts)\n"
        "executable('station', 'main.c', include_directories: 'lib', link_with: level)\n"}},
      "lib", kMeson, "meson.build", "lib/meson.build",
      {"project('tide', 'c')\nopts = ['-DX=1']\nsubdir('lib')\n"
       "executable('station', 'main.c', include_directories: 'lib', link_with: level)\n",
       "level_src = ['level.c']\n\nif host_machine.system() == 'dos'\n  level_src += 'dos.c'\nendif\n"
       "level = static_library('level', level_src, c_args: opts)\n"});
}

// Meson looks in the folder of a target's script by itself, in the source tree and in the build tree.
TEST(CarveShapes, meson_includes_from_the_folder_above_are_still_found) {
  Workspace tree(Files{{"meson.build",
                        "project('tide', 'c')\nconfigure_file(output: 'conf.h', configuration: {'X': 7})\n"
                        "executable('station', 'src/main.c')\n"},
                       {"src/main.c",
                        "#include <stdio.h>\n#include \"conf.h\"\n#include \"src/level.h\"\n"
                        "int main(void) { printf(\"%d\\n\", X); return 0; }\n"},
                       {"src/level.h", kHeader}});
  Outcome carved = tree.run({"carve", "src"});
  ASSERT_EQ(carved.status, 0) << carved.told;
  EXPECT_EQ(tree.read("src/meson.build"), "executable('station', 'main.c', include_directories: '..')\n");
  Outcome built = tree.shell(kMeson);
  EXPECT_EQ(built.out, "7\n") << built.told;
}

TEST(CarveShapes, cmake_library_with_all_that_is_said_of_it) {
  expect_carved(
      {{"CMakeLists.txt",
        "cmake_minimum_required(VERSION 3.13)\nproject(tide C)\n\nset(LEVEL lib/level.c)\n"
        "add_library(level STATIC ${LEVEL})\ntarget_include_directories(level PUBLIC "
        "${CMAKE_CURRENT_SOURCE_DIR}/lib)\n\nadd_executable(station main.c)\n"
        "target_link_libraries(station level)\n"}},
      "lib", kCMake, "CMakeLists.txt", "lib/CMakeLists.txt",
      {"cmake_minimum_required(VERSION 3.13)\nproject(tide C)\n\nadd_subdirectory(lib)\n\n"
       "add_executable(station main.c)\ntarget_link_libraries(station level)\n",
       "set(LEVEL level.c)\nadd_library(level STATIC ${LEVEL})\ntarget_include_directories(level PUBLIC "
       "${CMAKE_CURRENT_SOURCE_DIR}/.)\n"});
}

TEST(CarveShapes, cmake_target_of_several_folders_gets_its_sources_from_below) {
  expect_carved({{"CMakeLists.txt",
                  "cmake_minimum_required(VERSION 3.13)\nproject(tide C)\nset(SRC main.c lib/level.c)\n"
                  "add_executable(station ${SRC})\ntarget_include_directories(station PRIVATE lib)\n"}},
                "lib", kCMake, "CMakeLists.txt", "lib/CMakeLists.txt",
                {"cmake_minimum_required(VERSION 3.13)\nproject(tide C)\nset(SRC main.c)\n"
                 "add_executable(station ${SRC})\nadd_subdirectory(lib)\n"
                 "target_include_directories(station PRIVATE lib)\n",
                 "target_sources(station PRIVATE\n  level.c\n)\n"});
}

TEST(CarveShapes, make_rules_go_to_a_fragment_named_as_the_others_are) {
  expect_carved({{"Makefile",
                  "CFLAGS = -Ilib\nstation: main.o lib/level.o\n\t$(CC) -o $@ $^\n\n# The level.\n"
                  "lib/level.o: lib/level.c lib/level.h\n\t$(CC) $(CFLAGS) -c -o $@ $<\n\n"
                  "clean:\n\trm -f station *.o lib/*.o\ninclude tools/parts.mk\n"},
                 {"tools/parts.mk", "X = 1\n"}},
                "lib", kMake, "Makefile", "lib/parts.mk",
                {"CFLAGS = -Ilib\nstation: main.o lib/level.o\n\t$(CC) -o $@ $^\n\ninclude lib/parts.mk\n\n"
                 "clean:\n\trm -f station *.o lib/*.o\ninclude tools/parts.mk\n",
                 "# The level.\nlib/level.o: lib/level.c lib/level.h\n\t$(CC) $(CFLAGS) -c -o $@ $<\n"});
}

TEST(CarveShapes, a_folder_that_nothing_names_is_told) {
  Workspace tree(Files{{"meson.build", "project('tide', 'c')\nexecutable('a', 'main.c')\n"},
                       {"main.c", "int main(void) { return 0; }\n"},
                       {"doc/notes.txt", "tide\n"}});
  Outcome outcome = tree.run({"carve", "doc"});
  EXPECT_EQ(outcome.status, 2) << outcome.told;
  EXPECT_NE(outcome.err.find("no statement of meson.build is about this folder alone"), std::string::npos)
      << outcome.told;
  EXPECT_EQ(tree.run({"carve", "nowhere"}).status, 2);
  EXPECT_EQ(tree.run({"carve", "--fold", "doc"}).status, 2);
}

TEST(CarveShapes, folding_a_script_whose_settings_are_its_own_is_refused) {
  Workspace tree(
      Files{{"CMakeLists.txt", "project(tide C)\nadd_subdirectory(lib)\nadd_executable(station main.c)\n"},
            {"main.c", "int main(void) { return 0; }\n"},
            {"lib/CMakeLists.txt", "add_definitions(-DTIDE)\nadd_library(level level.c)\n"},
            {"lib/level.c", "int level(void) { return 7; }\n"}});
  auto before = tree.contents();
  Outcome outcome = tree.run({"carve", "--fold", "lib"});
  EXPECT_EQ(outcome.status, 3) << outcome.told;
  EXPECT_NE(outcome.err.find("its settings hold for its own targets alone"), std::string::npos)
      << outcome.told;
  EXPECT_EQ(tree.contents(), before);
}

TEST(CarveShapes, what_is_made_where_it_is_looked_for_stays_found_or_it_is_refused) {
  Workspace tree(
      Files{{"CMakeLists.txt",
             "cmake_minimum_required(VERSION 3.13)\nproject(tide C)\nconfigure_file(src/conf.h.in conf.h)\n"
             "include_directories(${CMAKE_CURRENT_BINARY_DIR})\nadd_executable(station main.c)\n"},
            {"main.c", "#include \"conf.h\"\nint main(void) { return 0; }\n"},
            {"src/conf.h.in", "#define X 1\n"}});
  Outcome outcome = tree.run({"carve", "src"});
  EXPECT_EQ(outcome.status, 3) << outcome.told;
  EXPECT_FALSE(tree.exists("src/CMakeLists.txt"));
}

}  // namespace
}  // namespace yc::test
