// Folders and files that build scripts tell compilers as macros, and what programs open there.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

// A program that opens four files of a folder, one of them by a name that nobody reads.
Files program(const std::string& script, const std::string& text) {
  return {{script, text},
          {"tests/show.cpp",
           "#include <cstdio>\n#include <filesystem>\n#include <string>\n"
           "int main() {\n  char name[999];\n  std::snprintf(name, 999, \"%s/ebb.txt\", TABLES);\n"
           "  return !std::fopen(TABLES \"/low.txt\", \"r\") ||\n"
           "         !std::fopen((std::string(TABLES) + \"/high.txt\").c_str(), \"r\") ||\n"
           "         !std::filesystem::exists(std::filesystem::path(TABLES) / \"flow.txt\") ||\n"
           "         !std::fopen(name, \"r\");\n}\n"},
          {"tests/tables/low.txt", "1\n"},
          {"tests/tables/high.txt", "2\n"},
          {"tests/tables/flow.txt", "3\n"},
          {"tests/tables/ebb.txt", "4\n"},
          {"sum.sh", "cat tests/tables/ebb.txt\n"}};
}

void expect_tables_follow(const Workspace& tree, const std::string& build) {
  expect_move_says(tree, "tests/tables/low.txt -> tests/tables/levels/low.txt\n",
                   {"TABLES \"/levels/low.txt\""}, build);
  expect_move_says(tree, "tests/tables/high.txt -> tests/tables/top.txt\n", {"(TABLES) + \"/top.txt\""},
                   build);
  expect_move_says(tree, "tests/tables/flow.txt -> data/flow.txt\n", {"(TABLES) / \"../../data/flow.txt\""},
                   build);
  // What else names a file does not tell what the program looks for.
  expect_refusal(tree, "tests/tables/ebb.txt -> tests/tables/neap.txt\n",
                 {"hands tests/tables to a program, which may open tests/tables/ebb.txt"});
}

TEST(MacroShapes, folders_that_cmake_tells_a_compiler) {
  Workspace tree(
      program("CMakeLists.txt",
              "cmake_minimum_required(VERSION 3.10)\nproject(tide CXX)\nset(CMAKE_CXX_STANDARD 17)\n"
              "add_executable(show tests/show.cpp)\n"
              "target_compile_definitions(show PRIVATE "
              "TABLES=\"${CMAKE_CURRENT_SOURCE_DIR}/tests/tables\")\n"));
  const char* const build = "cmake -B b . >/dev/null && make -s -C b >/dev/null && ./b/show";
  expect_tables_follow(tree, build);
  expect_move_says(tree, "tests -> checks\n", {"/checks/tables\"", "cat checks/tables/ebb.txt"}, build);
}

TEST(MacroShapes, folders_that_a_makefile_tells_a_compiler) {
  Workspace tree(program("Makefile",
                         "show: tests/show.cpp\n\t$(CXX) -std=c++17 -DTABLES='\"tests/tables\"' -o $@ $<\n"));
  expect_tables_follow(tree, "make -s show && ./show");
}

TEST(MacroShapes, a_macro_that_means_two_folders_is_followed_in_neither) {
  Workspace tree(
      {{"Makefile",
        "all:\n\tgcc -DTABLES='\"t/low\"' -o a show.c\n\tgcc -DTABLES='\"t/high\"' -o b show.c\n"},
       {"show.c", "#include <stdio.h>\nint main(void) { return !fopen(TABLES \"/table.txt\", \"r\"); }\n"},
       {"t/low/table.txt", "1\n"},
       {"t/high/table.txt", "2\n"}});
  expect_refusal(tree, "t/low/table.txt -> t/low/levels.txt\n", {"hands t/low to a program"});
  expect_move_says(tree, "t/low -> t/ebb\n", {"-DTABLES='\"t/ebb\"'"}, "make -s && ./a && ./b");
}

TEST(MacroShapes, tests_that_a_property_has_started_elsewhere) {
  for (const char* property :
       {"set_property(TEST levels PROPERTY WORKING_DIRECTORY ${CMAKE_CURRENT_SOURCE_DIR})\n",
        "set_tests_properties(levels PROPERTIES WORKING_DIRECTORY "
        "${CMAKE_CURRENT_SOURCE_DIR})\n"}) {
    Workspace tree(
        {{"CMakeLists.txt",
          "cmake_minimum_required(VERSION 3.10)\nproject(tide NONE)\nenable_testing()\n"
          "add_subdirectory(tests)\n"},
         {"tests/CMakeLists.txt",
          "add_test(NAME levels COMMAND sh ${CMAKE_CURRENT_SOURCE_DIR}/check.sh)\n" + std::string(property)},
         {"tests/check.sh", "test -f cases/low.txt\n"},
         {"tests/cases/low.txt", "1\n"}});
    const char* const build = "cmake -B b . >/dev/null && cd b && ctest >/dev/null";
    Outcome moved =
        expect_move_says(tree, "tests/check.sh -> tools/check.sh\n", {"/../tools/check.sh"}, build);
    EXPECT_EQ(moved.out.find("cases/low.txt"), std::string::npos) << moved.told;
    expect_move_says(tree, "tests/cases -> tests/tables\n", {"test -f tables/low.txt"}, build);
  }
}

TEST(MacroShapes, what_an_installation_leaves_out_stays_out) {
  Workspace tree(
      {{"CMakeLists.txt",
        "cmake_minimum_required(VERSION 3.10)\nproject(tide NONE)\n"
        "install(DIRECTORY tables/ DESTINATION share FILES_MATCHING PATTERN \"*.csv\" PATTERN \"old\" "
        "EXCLUDE)\n"},
       {"tables/low.csv", "1\n"},
       {"tables/years/old/low.csv", "2\n"}});
  const char* const build =
      "cmake -B b . >/dev/null && DESTDIR=$PWD/i make -s -C b install >/dev/null && "
      "test $(find i -name '*.csv' | wc -l) = 1";
  expect_move_says(tree, "tables/years/old -> tables/years/past\n", {"PATTERN \"past\" EXCLUDE"}, build);
  // Under its name it is left out anywhere.
  for (const char* sheet : {"tables/years/old -> tables/old\n", "tables/years/old -> data/old\n",
                            "tables/years/old/low.csv -> data/low.csv\n",
                            "tables/years/old/low.csv -> tables/years/old/ebb.csv\n"}) {
    Outcome moved = expect_move_keeps_build(tree, sheet, build);
    EXPECT_NE(moved.out.find("0 edits"), std::string::npos) << moved.told;
  }
}

}  // namespace
}  // namespace yc::test
