// What Qt's generators and CMake itself find by name and place. Qt is not needed: what the edits say is
// looked at, and a stand-in for moc's search, that of CMake's manual, is the build.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

// Every header with Q_OBJECT is listed, or lies beside the source of its name.
const char* const kMoc =
    "for h in $(grep -rl Q_OBJECT --include=*.h .); do s=${h%.h}; s=${s%_p}; test -e $s.cpp || "
    "grep -q \"${h#./}\" CMakeLists.txt || exit 1; done";

Files viewer(const std::string& sources) {
  return {{"CMakeLists.txt",
           "cmake_minimum_required(VERSION 3.16)\nproject(viewer CXX)\nset(CMAKE_AUTOMOC ON)\n"
           "set(CMAKE_AUTOUIC ON)\nset(CMAKE_AUTOUIC_SEARCH_PATHS ${CMAKE_CURRENT_SOURCE_DIR}/forms)\n"
           "find_package(Qt6 REQUIRED)\n" +
               sources},
          {"src/main.cpp", "int main() { return 0; }\n"},
          {"src/gauge.h", "class Gauge { Q_OBJECT };\n"},
          {"src/gauge.cpp", "#include \"gauge.h\"\n"},
          {"src/scale.h", "class Scale { };\n"},
          {"src/scale.cpp", "#include \"scale.h\"\n#include \"scale.moc\"\n"},
          {"src/chart.h", "#include \"ui_chart.h\"\nclass Chart { Q_OBJECT };\n"},
          {"src/chart.cpp", "#include \"chart.h\"\n#include \"ui_station.h\"\n#include \"moc_chart.cpp\"\n"},
          {"src/station.ui", "<ui/>\n"},
          {"forms/chart.ui", "<ui/>\n"}};
}

const std::string kListed =
    "add_executable(viewer\n  src/main.cpp\n  src/gauge.cpp\n  src/scale.cpp\n  src/chart.cpp)\n";

TEST(QtShapes, header_that_leaves_its_source_is_listed) {
  Workspace tree(viewer(kListed));
  expect_move_says(tree, "src/gauge.h -> include/gauge.h\n", {"+   include/gauge.h"}, kMoc);
  expect_move_says(tree, "src/gauge.cpp -> lib/gauge.cpp\n", {"+   src/gauge.h"}, kMoc);
  expect_move_keeps_build(tree, "src/gauge.h -> lib/gauge.h\nsrc/gauge.cpp -> lib/gauge.cpp\n", kMoc);
  Outcome plain = expect_move_keeps_build(tree, "src/scale.h -> include/scale.h\n", kMoc);
  EXPECT_EQ(plain.out.find("+   include/scale.h"), std::string::npos) << plain.told;
}

TEST(QtShapes, header_that_no_word_can_list_is_held_back) {
  Workspace tree(viewer("file(GLOB all src/*.cpp)\nadd_executable(viewer ${all})\n"));
  expect_refusal(
      tree, "src/gauge.h -> include/gauge.h\n",
      {"src/gauge.h: is found by moc beside src/gauge.cpp, and would not be as include/gauge.h beside "
       "src/gauge.cpp",
       "list it among the sources of the target first"});
  expect_refusal(tree, "src/chart.h -> include/chart.h\n", {"is found by moc"});
}

TEST(QtShapes, what_is_made_is_called_like_what_it_is_made_of) {
  Workspace tree(viewer(kListed));
  expect_move_says(tree, "src/scale.cpp -> src/ruler.cpp\n", {"#include \"ruler.moc\""}, kMoc);
  expect_move_says(tree, "src/station.ui -> src/pole.ui\n", {"#include \"ui_pole.h\""}, kMoc);
  expect_move_says(tree, "src/chart.h -> src/levels.h\nsrc/chart.cpp -> src/levels.cpp\n",
                   {"#include \"moc_levels.cpp\""}, kMoc);
}

TEST(QtShapes, forms_are_found_beside_a_source_or_in_a_folder_that_is_named) {
  Workspace tree(viewer(kListed));
  expect_refusal(tree, "src/station.ui -> views/station.ui\n", {"is found by uic beside src/chart.cpp"});
  expect_refusal(tree, "src/chart.cpp -> lib/chart.cpp\nsrc/chart.h -> lib/chart.h\n", {"src/station.ui"});
  expect_move_says(tree, "forms/ -> views/\n", {"${CMAKE_CURRENT_SOURCE_DIR}/views)"}, kMoc);
}

TEST(CMakeShapes, paths_that_cmake_itself_reads) {
  Workspace tree(
      Files{{"CMakeLists.txt",
             "cmake_minimum_required(VERSION 3.16)\n"
             "set(CMAKE_PROJECT_INCLUDE ${CMAKE_CURRENT_SOURCE_DIR}/cmake/first.cmake)\n"
             "project(tide NONE)\n"
             "set(CPACK_RESOURCE_FILE_LICENSE \"${PROJECT_SOURCE_DIR}/meta/terms.txt\")\n"
             "set(DOXYGEN_USE_MDFILE_AS_MAINPAGE meta/main.md)\n"
             "set(ALL meta/main.md)\nset(LIST ${CMAKE_CURRENT_SOURCE_DIR}/meta/terms.txt)\n"
             "if(NOT EXISTS ${CPACK_RESOURCE_FILE_LICENSE})\n  message(FATAL_ERROR gone)\nendif()\n"
             "configure_file(cmake/head.in head.h)\n"
             "include(${CMAKE_BINARY_DIR}/head.h)\n"},
            {"cmake/head.in", "if(NOT EXISTS @LIST@)\n  message(FATAL_ERROR gone)\nendif()\n"},
            {"cmake/first.cmake", "include(${CMAKE_CURRENT_LIST_DIR}/common.cmake)\n"},
            {"cmake/common.cmake", "message(STATUS common)\n"},
            {"meta/main.md", "# Tides\n"},
            {"meta/terms.txt", "free\n"}});
  const std::string build = "cmake -S . -B build >/dev/null && rm -r build";
  expect_move_keeps_build(tree, "meta/terms.txt -> terms/free.txt\n", build);
  expect_move_says(tree, "meta/main.md -> docs/main.md\n", {"AS_MAINPAGE docs/main.md"}, build);
  expect_move_keeps_build(tree, "cmake/first.cmake -> conf/first.cmake\n", build);
  expect_move_keeps_build(tree, "cmake/common.cmake -> conf/common.cmake\n", build);
  expect_move_keeps_build(tree, "cmake/ -> conf/\n", build);
}

TEST(CMakeShapes, what_a_module_of_cmake_includes_stays_where_it_is) {
  Workspace tree(
      Files{{"CMakeLists.txt", "cmake_minimum_required(VERSION 3.16)\nproject(tide NONE)\ninclude(CTest)\n"},
            {"CTestConfig.cmake", "set(CTEST_PROJECT_NAME tide)\n"}});
  expect_refusal(tree, "CTestConfig.cmake -> cmake/CTestConfig.cmake\n",
                 {"CMakeLists.txt:3", "CTestConfig.cmake"});
}

// A script that no project includes is started from anywhere: a path in it is spelled from its own folder.
TEST(CMakeShapes, scripts_that_are_given_on_the_command_line) {
  Workspace tree(Files{{"CMakeLists.txt",
                        "cmake_minimum_required(VERSION 3.16)\nproject(tide C)\n"
                        "install(FILES cmake/tideConfig.cmake cmake/levels.cmake DESTINATION x)\n"},
                       {"cmake/arm.cmake", "include(${CMAKE_CURRENT_LIST_DIR}/common.cmake)\n"},
                       {"cmake/common.cmake",
                        "set(CMAKE_C_FLAGS_INIT \"-include ${CMAKE_CURRENT_LIST_DIR}/../meta/pre.h\")\n"},
                       {"cmake/tideConfig.cmake", "include(${CMAKE_CURRENT_LIST_DIR}/levels.cmake)\n"},
                       {"cmake/levels.cmake", ""},
                       {"meta/pre.h", ""}});
  const std::string build =
      "cmake -S . -B build -DCMAKE_TOOLCHAIN_FILE=$(find $PWD -name arm.cmake) >/dev/null && rm -r build";
  expect_move_says(tree, "cmake/common.cmake -> tools/common.cmake\n",
                   {"include(${CMAKE_CURRENT_LIST_DIR}/../tools/common.cmake)"}, build);
  expect_move_keeps_build(tree, "meta/pre.h -> include/pre.h\n", build);
  expect_move_keeps_build(tree, "cmake/arm.cmake -> tools/arm/arm.cmake\n", build);
  Outcome installed = expect_move_keeps_build(tree, "cmake/levels.cmake -> tools/levels.cmake\n", build);
  EXPECT_EQ(installed.told.find("tideConfig.cmake:"), std::string::npos) << installed.told;
}

// Who lists a script does not say that it is not run.
TEST(CMakeShapes, scripts_that_targets_and_installations_run) {
  const std::string reads = "file(READ ${CMAKE_CURRENT_LIST_DIR}/";
  Workspace tree(Files{{"CMakeLists.txt",
                        "cmake_minimum_required(VERSION 3.16)\nproject(tide NONE)\n"
                        "add_custom_command(OUTPUT x.txt\n  COMMAND ${CMAKE_COMMAND} -P "
                        "${CMAKE_CURRENT_SOURCE_DIR}/tools/fill.cmake\n  DEPENDS tools/fill.cmake)\n"
                        "add_custom_target(filled ALL DEPENDS x.txt SOURCES tools/fill.cmake)\n"
                        "install(SCRIPT tools/finish.cmake)\n"
                        "configure_file(tools/made.cmake made.cmake @ONLY)\n"},
                       {"tools/fill.cmake", reads + "gauges.txt all)\nfile(WRITE x.txt \"${all}\")\n"},
                       {"tools/finish.cmake", reads + "last.txt all)\n"},
                       {"tools/made.cmake", reads + "last.txt all)\n"},
                       {"tools/gauges.txt", "1\n"},
                       {"tools/last.txt", "2\n"}});
  const std::string build =
      "cmake -S . -B build >/dev/null && make -s -C build >/dev/null && make -s -C build install >/dev/null "
      "&& "
      "rm -r build";
  expect_move_says(tree, "tools/gauges.txt -> data/gauges.txt\n", {"../data/gauges.txt all)"}, build);
  expect_move_says(tree, "tools/last.txt -> data/last.txt\n", {"../data/last.txt all)"}, build);
  Outcome made = expect_move_keeps_build(tree, "tools/made.cmake -> meta/made.cmake\n", build);
  EXPECT_EQ(made.told.find("meta/made.cmake:"), std::string::npos) << made.told;
}

}  // namespace
}  // namespace yc::test
