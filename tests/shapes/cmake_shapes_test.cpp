// Shapes of CMake projects as they are met in the wild: each is moved, built with CMake, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const char* const kHead = "cmake_minimum_required(VERSION 3.16)\nproject(tide C)\n";
const char* const kLevelC = "#include \"level.h\"\nint level(void) { return LEVEL; }\n";
const char* const kLevelH = "#ifndef LEVEL\n#define LEVEL 7\n#endif\nint level(void);\n";
const char* const kMainC =
    "#include <stdio.h>\n#include \"level.h\"\nint main(void) { printf(\"%d\\n\", level()); return 0; }\n";
const std::string kBuild =
    "cmake -S . -B out -G Ninja -DCMAKE_BUILD_TYPE=Debug >/dev/null && cmake --build out >/dev/null";
const std::string kRun = kBuild + " && find out -name station -type f -exec {} \\;";

// A program of main.c, level.c and level.h in `folder`, built by the script's text.
Files station(const std::string& script, const std::string& folder = "") {
  return {{"CMakeLists.txt", kHead + script},
          {folder + "main.c", kMainC},
          {folder + "level.c", kLevelC},
          {folder + "level.h", kLevelH}};
}

TEST(CMakeShapes, flat_program_goes_to_src_and_include) {
  Workspace tree(station("add_executable(station main.c level.c)\n"));
  Outcome moved = expect_move_keeps_build(
      tree, "main.c -> src/main.c\nlevel.c -> src/level.c\nlevel.h -> include/level.h\n", kRun);
  EXPECT_NE(moved.out.find("add_executable(station src/main.c src/level.c)"), std::string::npos)
      << moved.told;
}

TEST(CMakeShapes, list_in_a_variable_keeps_its_layout) {
  Workspace tree(
      station("set(SOURCES\n  main.c\n  level.c  # water\n)\nadd_executable(station ${SOURCES})\n"));
  Outcome moved = expect_move_keeps_build(tree, "level.c -> src/level.c\n", kRun);
  EXPECT_NE(moved.out.find("  src/level.c  # water"), std::string::npos) << moved.told;
}

TEST(CMakeShapes, include_folder_is_edited_once) {
  Workspace tree(
      Files{{"CMakeLists.txt", std::string(kHead) +
                                   "add_library(level STATIC src/level.c)\ntarget_include_directories(level "
                                   "PUBLIC $<BUILD_INTERFACE:${CMAKE_CURRENT_SOURCE_DIR}/include> "
                                   "$<INSTALL_INTERFACE:include>)\nadd_executable(station "
                                   "src/main.c)\ntarget_link_libraries(station PRIVATE level)\n"},
            {"src/main.c", kMainC},
            {"src/level.c", kLevelC},
            {"include/level.h", kLevelH}});
  Outcome moved = expect_move_keeps_build(tree, "include/ -> api/\n", kRun);
  EXPECT_NE(moved.out.find("${CMAKE_CURRENT_SOURCE_DIR}/api>"), std::string::npos) << moved.told;
  EXPECT_NE(moved.out.find("1 edit in 1 file"), std::string::npos) << moved.told;
}

TEST(CMakeShapes, pattern_loses_a_file_and_gets_it_back) {
  Workspace tree(
      station("file(GLOB SRC CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/src/*.c)\nadd_executable(station "
              "${SRC})\n",
              "src/"));
  expect_move_keeps_build(tree, "src/level.c -> lib/level.c\n", kRun);
  expect_move_keeps_build(tree, "src/ -> source/\n", kRun);
}

TEST(CMakeShapes, pattern_at_any_depth_still_reaches) {
  Workspace tree(station("file(GLOB_RECURSE SRC src/*.c)\nadd_executable(station ${SRC})\n", "src/"));
  expect_move_keeps_build(tree, "src/level.c -> src/deep/er/level.c\n", kRun);
  expect_move_keeps_build(tree, "src/level.c -> other/level.c\n", kRun);
}

TEST(CMakeShapes, results_of_a_pattern_from_which_items_are_removed) {
  Workspace tree(
      station("file(GLOB SRC src/*.c)\nlist(REMOVE_ITEM SRC "
              "${CMAKE_CURRENT_SOURCE_DIR}/src/broken.c)\nadd_executable(station ${SRC})\n",
              "src/"));
  tree.write("src/broken.c", "this does not compile\n");
  expect_move_keeps_build(tree, "src/ -> source/\n", kRun);
  expect_move_keeps_build(tree, "src/broken.c -> src/attic/broken.c\n", kRun);
  expect_move_keeps_build(tree, "src/broken.c -> src/worse.c\n", kRun);
}

TEST(CMakeShapes, file_that_drifts_into_a_pattern_is_kept_out) {
  Workspace tree(station("file(GLOB SRC src/*.c)\nadd_executable(station ${SRC})\n", "src/"));
  tree.write("attic/broken.c", "this does not compile\n");
  expect_move_keeps_build(tree, "attic/broken.c -> src/broken.c\n", kRun);
}

TEST(CMakeShapes, subfolder_with_its_own_script) {
  Workspace tree(
      Files{{"CMakeLists.txt", std::string(kHead) + "add_subdirectory(lib)\nadd_subdirectory(app)\n"},
            {"lib/CMakeLists.txt",
             "add_library(level STATIC level.c)\ntarget_include_directories(level PUBLIC .)\n"},
            {"lib/level.c", kLevelC},
            {"lib/level.h", kLevelH},
            {"app/CMakeLists.txt", "add_executable(station main.c)\ntarget_link_libraries(station level)\n"},
            {"app/main.c", kMainC}});
  expect_move_keeps_build(tree, "lib/ -> libs/level/\n", kRun);
  expect_move_keeps_build(tree, "app/main.c -> app/src/main.c\nlib/level.h -> lib/include/level.h\n", kRun);
  expect_move_keeps_build(tree, "app/main.c -> lib/main.c\n", kRun);
}

TEST(CMakeShapes, name_built_in_a_loop) {
  Workspace tree(
      Files{{"CMakeLists.txt",
             std::string(kHead) + "foreach(t high low)\n  add_executable(${t} test/${t}.c)\nendforeach()\n"},
            {"test/high.c", "int main(void) { return 0; }\n"},
            {"test/low.c", "int main(void) { return 0; }\n"}});
  expect_move_keeps_build(tree, "test/ -> tests/unit/\n", kBuild + " && out/high && out/low");
  Outcome one =
      expect_move_keeps_build(tree, "test/low.c -> more/low.c\n", kBuild + " && ls out/high out/low");
  EXPECT_NE(one.out.find("more/low.c"), std::string::npos) << one.told;
}

TEST(CMakeShapes, name_built_by_a_function) {
  Workspace tree(
      Files{{"CMakeLists.txt",
             std::string(kHead) +
                 "function(add_check name)\n  string(REPLACE \"-test\" \"\" stem ${name})\n  "
                 "add_executable(${name} "
                 "checks/${stem}.c)\nendfunction()\nadd_check(level-test)\nadd_check(gauge-test)\n"},
            {"checks/level.c", "int main(void) { return 0; }\n"},
            {"checks/gauge.c", "int main(void) { return 0; }\n"}});
  expect_move_keeps_build(tree, "checks/ -> tests/\n", kBuild + " && out/level-test && out/gauge-test");
}

TEST(CMakeShapes, module_found_through_the_module_path) {
  Workspace tree(
      station("list(APPEND CMAKE_MODULE_PATH "
              "${CMAKE_CURRENT_SOURCE_DIR}/cmake)\ninclude(Flags)\nadd_executable(station main.c "
              "level.c)\ntide_flags(station)\n"));
  tree.write("cmake/Flags.cmake",
             "function(tide_flags target)\n  target_compile_definitions(${target} PRIVATE "
             "LEVEL=9)\nendfunction()\n");
  expect_move_keeps_build(tree, "cmake/ -> build/modules/\n", kRun);
  expect_move_keeps_build(tree, "cmake/Flags.cmake -> cmake/Options.cmake\n", kRun);
}

TEST(CMakeShapes, header_read_as_text_and_template_filled_in) {
  Workspace tree(
      station("file(STRINGS level.h version REGEX LEVEL)\nconfigure_file(config.h.in "
              "${CMAKE_CURRENT_BINARY_DIR}/config.h)\nadd_executable(station main.c level.c)\n"));
  tree.write("config.h.in", "#define NAME \"@PROJECT_NAME@\"\n");
  expect_move_keeps_build(tree, "level.h -> include/level.h\nconfig.h.in -> cmake/config.h.in\n", kRun);
}

TEST(CMakeShapes, command_with_a_working_folder_and_an_input) {
  Workspace tree(Files{
      {"CMakeLists.txt",
       std::string(kHead) +
           "add_custom_command(OUTPUT ${CMAKE_CURRENT_BINARY_DIR}/table.c COMMAND sh "
           "${CMAKE_CURRENT_SOURCE_DIR}/tools/gen.sh < tide.txt > ${CMAKE_CURRENT_BINARY_DIR}/table.c\n"
           "  DEPENDS tools/gen.sh data/tide.txt WORKING_DIRECTORY "
           "${CMAKE_CURRENT_SOURCE_DIR}/data)\nadd_executable(station main.c "
           "${CMAKE_CURRENT_BINARY_DIR}/table.c)\n"},
      {"tools/gen.sh", "read x; echo \"int level(void) { return $x; }\"\n"},
      {"data/tide.txt", "12\n"},
      {"main.c",
       "#include <stdio.h>\nint level(void);\nint main(void) { printf(\"%d\\n\", level()); return 0; }\n"}});
  expect_move_keeps_build(tree, "tools/gen.sh -> scripts/gen.sh\n", kRun);
  expect_move_keeps_build(tree, "data/tide.txt -> data/tables/tide.txt\n", kRun);
  expect_move_keeps_build(tree, "data/ -> tables/\n", kRun);
}

TEST(CMakeShapes, headers_listed_for_installation) {
  Workspace tree(
      station("add_executable(station main.c level.c)\nset(HEADERS level.h)\ninstall(FILES ${HEADERS} "
              "DESTINATION include)\ninstall(TARGETS station DESTINATION bin)\n"));
  expect_move_keeps_build(tree, "level.h -> include/level.h\n",
                          kRun + " && cmake --install out --prefix $PWD/i >/dev/null && ls i/include");
}

TEST(CMakeShapes, source_properties_and_precompiled_header) {
  Workspace tree(
      station("add_executable(station main.c level.c)\nset_source_files_properties(level.c PROPERTIES "
              "COMPILE_DEFINITIONS LEVEL=4)\ntarget_precompile_headers(station PRIVATE level.h)\n"));
  expect_move_keeps_build(tree, "level.c -> src/level.c\n", kRun);
  expect_move_keeps_build(tree, "level.h -> include/level.h\n", kRun);
}

TEST(CMakeShapes, both_sides_of_nested_conditions) {
  std::string script =
      "option(A \"\" OFF)\noption(B \"\" OFF)\nif(A)\n  if(B)\n    set(SRC a_b.c)\n  elseif(WIN32)\n    "
      "set(SRC a_win.c)\n  else()\n    set(SRC a.c)\n  endif()\nelse()\n  set(SRC "
      "none.c)\nendif()\nadd_executable(station main.c ${SRC})\n";
  Workspace tree(Files{{"CMakeLists.txt", kHead + script}, {"level.h", kLevelH}, {"main.c", kMainC}});
  std::string sheet;
  for (const char* name : {"a_b", "a_win", "a", "none"}) {
    tree.write(std::string(name) + ".c", kLevelC);
    sheet += std::string(name) + ".c -> src/" + name + ".c\n";
  }
  std::string all =
      "for o in '-DA=ON -DB=ON' '-DA=ON -DWIN32=1' '-DA=ON' ''; do rm -rf out; cmake -S . -B out -G Ninja $o "
      ">/dev/null 2>&1 && cmake --build out >/dev/null || exit 1; done";
  expect_move_keeps_build(tree, sheet, all);
}

TEST(CMakeShapes, several_build_systems_follow_together) {
  Workspace tree(station("add_executable(station main.c level.c)\n"));
  tree.write("Makefile", "station: main.o level.o\n\t$(CC) -o $@ $^\n");
  Outcome moved = expect_move_keeps_build(tree, "level.c -> src/level.c\nlevel.h -> src/level.h\n",
                                          "make -s && ./station && " + kRun);
  EXPECT_NE(moved.out.find("CMakeLists.txt"), std::string::npos) << moved.told;
  EXPECT_NE(moved.out.find("Makefile"), std::string::npos) << moved.told;
}

TEST(CMakeShapes, presets_that_name_files) {
  Workspace tree(station("add_executable(station main.c level.c)\n"));
  tree.write("tool.cmake", "set(CMAKE_C_FLAGS_INIT -DLEVEL=3)\n");
  tree.write("CMakePresets.json",
             "{\n  \"version\": 3,\n  \"configurePresets\": [\n    { \"name\": \"host\", \"generator\": "
             "\"Ninja\", \"binaryDir\": \"${sourceDir}/out\",\n      \"toolchainFile\": "
             "\"${sourceDir}/tool.cmake\" }\n  ]\n}\n");
  Outcome moved = expect_move_keeps_build(
      tree, "tool.cmake -> cmake/tool.cmake\n",
      "cmake --preset host >/dev/null && cmake --build out >/dev/null && out/station");
  EXPECT_NE(moved.out.find("${sourceDir}/cmake/tool.cmake"), std::string::npos) << moved.told;
}

TEST(CMakeShapes, target_sources_in_the_subfolder) {
  Workspace tree(
      Files{{"CMakeLists.txt",
             std::string(kHead) +
                 "add_executable(station "
                 "main.c)\nadd_subdirectory(level)\ntarget_include_directories(station PRIVATE level)\n"},
            {"main.c", kMainC},
            {"level/CMakeLists.txt", "target_sources(station PRIVATE ${CMAKE_CURRENT_SOURCE_DIR}/level.c)\n"},
            {"level/level.c", kLevelC},
            {"level/level.h", kLevelH}});
  expect_move_keeps_build(tree, "level/level.c -> level/impl/level.c\n", kRun);
  expect_move_keeps_build(tree, "level/ -> water/level/\n", kRun);
}

TEST(CMakeShapes, swap_of_two_sources) {
  Workspace tree(station("add_executable(station main.c level.c)\n"));
  expect_move_keeps_build(tree, "main.c -> level.c\nlevel.c -> main.c\n", kRun);
}

// A header that is made of a template includes others too, whatever the template is called.
TEST(CMakeShapes, includes_of_a_template_follow) {
  Workspace tree(Files{
      {"CMakeLists.txt",
       std::string(kHead) +
           "configure_file(all.h.cmakein ${PROJECT_BINARY_DIR}/all.h @ONLY)\n"
           "include_directories(. ${PROJECT_BINARY_DIR})\nadd_executable(station main.c level.c)\n"},
      {"all.h.cmakein", "#include \"level.h\"\n"},
      {"main.c",
       "#include <stdio.h>\n#include <all.h>\nint main(void) { printf(\"%d\\n\", level()); return 0; }\n"},
      {"level.c", kLevelC},
      {"level.h", kLevelH}});
  Outcome moved = expect_move_keeps_build(tree, "level.h -> core/level.h\n", kRun);
  EXPECT_NE(moved.out.find("all.h.cmakein"), std::string::npos) << moved.told;
}

TEST(CMakeShapes, the_script_of_a_subfolder_goes_without_it) {
  Workspace tree(
      Files{{"CMakeLists.txt",
             std::string(kHead) +
                 "add_subdirectory(level)\nadd_executable(station main.c)\n"
                 "target_link_libraries(station level)\ntarget_include_directories(station PRIVATE level)\n"},
            {"main.c", kMainC},
            {"level/CMakeLists.txt", "add_library(level STATIC ${CMAKE_CURRENT_SOURCE_DIR}/level.c)\n"},
            {"level/level.c", kLevelC},
            {"level/level.h", kLevelH}});
  Outcome moved = expect_move_keeps_build(tree, "level/CMakeLists.txt -> scripts/CMakeLists.txt\n", kRun);
  EXPECT_NE(moved.out.find("add_subdirectory(scripts)"), std::string::npos) << moved.told;
}

TEST(CMakeShapes, two_files_of_one_loop_are_told_apart) {
  Files files = {{"CMakeLists.txt",
                  std::string(kHead) +
                      "foreach(NAME low high ebb)\n  add_executable(${NAME} ${NAME}.c)\nendforeach()\n"}};
  for (const char* name : {"low", "high", "ebb"})
    files.push_back({std::string(name) + ".c", "int main(void) { return 0; }\n"});
  Workspace tree(files);
  Outcome moved = expect_move_keeps_build(tree, "low.c -> neap/low.c\nhigh.c -> spring/high.c\n",
                                          kBuild + " && find out -name low -type f -exec {} \\; && echo ran");
  EXPECT_NE(moved.out.find("elseif"), std::string::npos) << moved.told;
}

// What a shell is told to run in a string decides what is built.
TEST(CMakeShapes, a_command_line_within_a_command) {
  Workspace tree(Files{
      {"CMakeLists.txt", std::string(kHead) +
                             "execute_process(COMMAND sh -c \"echo x | tools/ask.sh && test -f level.c\"\n"
                             "  WORKING_DIRECTORY ${PROJECT_SOURCE_DIR} RESULT_VARIABLE no)\n"
                             "if(NOT no EQUAL 0)\n  message(FATAL_ERROR \"it does not answer\")\nendif()\n"
                             "add_executable(station main.c level.c)\n"},
      {"tools/ask.sh", "#!/bin/sh\nexit 0\n"},
      {"main.c", kMainC},
      {"level.c", kLevelC},
      {"level.h", kLevelH}});
  tree.shell("chmod +x tools/ask.sh");
  Outcome moved =
      expect_move_keeps_build(tree, "tools/ask.sh -> scripts/ask.sh\nlevel.c -> src/level.c\n", kRun);
  EXPECT_NE(moved.out.find("echo x | scripts/ask.sh && test -f src/level.c"), std::string::npos)
      << moved.told;
}

// A header that the build makes includes what a variable says.
TEST(CMakeShapes, an_include_that_a_script_writes_into_a_header) {
  Files files = station(
      "set(WITH_LEVEL \"#include \\\"level.h\\\"\")\nconfigure_file(all.h.in all.h)\n"
      "add_executable(station main.c level.c)\n"
      "target_include_directories(station PRIVATE . ${PROJECT_BINARY_DIR})\n");
  files.push_back({"all.h.in", "@WITH_LEVEL@\n"});
  files[1].second =
      "#include <stdio.h>\n#include \"all.h\"\nint main(void) { printf(\"%d\\n\", level()); return 0; }\n";
  Workspace tree(files);
  Outcome moved = expect_move_keeps_build(tree, "level.h -> water/level.h\n", kRun);
  EXPECT_NE(moved.out.find("#include \\\"water/level.h\\\""), std::string::npos) << moved.told;
}

// What an installed target hands on must not name the source tree.
TEST(CMakeShapes, a_new_root_of_an_exported_target) {
  Workspace tree(
      Files{{"CMakeLists.txt", std::string(kHead) +
                                   "add_library(level level.c)\n"
                                   "target_include_directories(level PUBLIC\n"
                                   "  $<BUILD_INTERFACE:${PROJECT_SOURCE_DIR}/include>\n"
                                   "  $<INSTALL_INTERFACE:include>)\n"
                                   "add_executable(station main.c)\ntarget_link_libraries(station level)\n"
                                   "install(TARGETS level EXPORT level DESTINATION lib)\n"
                                   "install(EXPORT level DESTINATION lib/cmake)\n"},
            {"main.c",
             "#include <stdio.h>\n#include <tide/level.h>\n"
             "int main(void) { printf(\"%d\\n\", level()); return 0; }\n"},
            {"level.c", "#include <tide/level.h>\nint level(void) { return LEVEL; }\n"},
            {"include/tide/level.h", kLevelH}});
  Outcome moved = expect_move_keeps_build(tree, "include/tide/level.h -> core/level.h\n", kRun);
  EXPECT_NE(moved.out.find("$<BUILD_INTERFACE:${CMAKE_CURRENT_SOURCE_DIR}/core>"), std::string::npos)
      << moved.told;
}

Files programs_of_a_loop() {
  Files files = {{"CMakeLists.txt", std::string(kHead) + "enable_testing()\nadd_subdirectory(tests)\n"},
                 {"tests/CMakeLists.txt",
                  "set(names low high)\nforeach(name ${names})\n  add_executable(\"${name}\" \"${name}.c\")\n"
                  "  add_test(NAME ${name} COMMAND \"./${name}\")\nendforeach()\n"}};
  for (const char* name : {"low", "high"})
    files.push_back({std::string("tests/") + name + ".c", "int main(void) { return 0; }\n"});
  return files;
}

const std::string kTests =
    kBuild + " && (cd out && ctest | grep -E 'Passed|passed' | sed 's/ *[0-9.]* sec//')";

// The rounds of the loop need the same folder: it is written once. What is made goes where the script goes.
TEST(CMakeShapes, the_script_of_a_loop_leaves_the_folder) {
  expect_move_says(Workspace(programs_of_a_loop()), "tests/CMakeLists.txt -> scripts/CMakeLists.txt\n",
                   {"add_subdirectory(scripts)", "add_executable(\"${name}\" \"../tests/${name}.c\")",
                    "2 edits in 2 files"},
                   kTests);
}

TEST(CMakeShapes, all_files_of_a_loop_go_to_one_folder) {
  expect_move_says(Workspace(programs_of_a_loop()),
                   "tests/low.c -> tests/parts/low.c\ntests/high.c -> tests/parts/high.c\n",
                   {"\"parts/${name}.c\"", "1 edit in 1 file"}, kTests);
}

// A function puts the name of the source together in a command of its own.
TEST(CMakeShapes, a_list_that_a_function_begins_with_a_computed_name) {
  Files files = {
      {"CMakeLists.txt", std::string(kHead) + "function(add_one name)\n  set(sources ${name}.c ${ARGN})\n"
                                              "  add_executable(${name} ${sources})\nendfunction()\n"
                                              "add_one(low)\nadd_one(station level.c)\n"},
      {"low.c", "int main(void) { return 0; }\n"},
      {"station.c", kMainC},
      {"level.c", kLevelC},
      {"level.h", kLevelH}};
  expect_move_says(Workspace(files), "station.c -> app/station.c\n",
                   {"if(\"${name}\" STREQUAL \"station\")", "set(sources app/station.c ${ARGN})"}, kRun);
}

TEST(CMakeShapes, modules_that_leave_the_folder_of_modules) {
  Files files = {{"CMakeLists.txt",
                  std::string(kHead) +
                      "list(APPEND CMAKE_MODULE_PATH \"${CMAKE_CURRENT_SOURCE_DIR}/cmake\")\ninclude(Water)\n"
                      "include(Pole)\nfind_package(Tide REQUIRED)\nfile(WRITE ${CMAKE_BINARY_DIR}/said "
                      "\"${WATER} ${POLE} ${TIDE_LEVEL}\")\n"},
                 {"cmake/Water.cmake", "set(WATER salt)\n"},
                 {"cmake/Pole.cmake", "set(POLE wood)\n"},
                 {"cmake/FindTide.cmake", "set(TIDE_LEVEL 7)\nset(Tide_FOUND TRUE)\n"}};
  const std::string build = "cmake -S . -B out -G Ninja >/dev/null && cat out/said";
  expect_move_says(Workspace(files), "cmake/Water.cmake -> water/Water.cmake\n",
                   {"include(water/Water.cmake)", "1 edit in 1 file"}, build);
  expect_move_says(Workspace(files), "cmake/FindTide.cmake -> tide/FindTide.cmake\n",
                   {"\"${CMAKE_CURRENT_SOURCE_DIR}/cmake\" ${CMAKE_CURRENT_SOURCE_DIR}/tide)"}, build);
  expect_move_says(Workspace(files), "cmake/ -> modules/\n", {"${CMAKE_CURRENT_SOURCE_DIR}/modules\""},
                   build);
}

// A folder of the build tree that a script names is not the twin of one in the tree that moves, though
// another build system makes a header of that name there.
TEST(CMakeShapes, a_made_header_stays_where_the_script_puts_it) {
  Files files = {
      {"CMakeLists.txt",
       std::string(kHead) +
           "set(made ${CMAKE_CURRENT_BINARY_DIR}/include/config.h)\nconfigure_file(cmake/config.h.in "
           "${made})\n"
           "add_executable(station main.c level.c)\ntarget_include_directories(station PRIVATE\n"
           "  ${CMAKE_CURRENT_SOURCE_DIR}/include\n  ${CMAKE_CURRENT_BINARY_DIR}/include)\n"},
      {"cmake/config.h.in", "#define SALT 1\n"},
      {"configure.ac",
       "AC_INIT([tide], [1])\nAC_CONFIG_HEADERS([include/config.h])\nAC_CONFIG_FILES([include/Makefile])\n"},
      {"include/Makefile.am", "include_HEADERS = level.h\n"},
      {"include/config.h.in", "#undef SALT\n"},
      {"main.c", "#include \"config.h\"\n" + std::string(kMainC)},
      {"level.c", kLevelC},
      {"include/level.h", kLevelH}};
  expect_move_says(Workspace(files), "include/ -> api/\n",
                   {"${CMAKE_CURRENT_SOURCE_DIR}/api", "AC_CONFIG_HEADERS([api/config.h])"}, kRun);
}

TEST(CMakeShapes, headers_installed_side_by_side_still_find_each_other_there) {
  Workspace tree({{"CMakeLists.txt",
                   "cmake_minimum_required(VERSION 3.10)\nproject(tide C)\nadd_library(tide tide.c)\n"
                   "install(FILES tide.h level.h DESTINATION include/tide)\n"},
                  {"tide.h", "#include \"level.h\"\nint tide(void);\n"},
                  {"level.h", "#define LEVEL 0\n"},
                  {"tide.c", "#include \"tide.h\"\nint tide(void) { return LEVEL; }\n"}});
  Outcome moved =
      expect_move_keeps_build(tree, "level.h -> util/level.h\n",
                              "(cmake -B b . && make -C b && make -C b install DESTDIR=$PWD/image) "
                              ">/dev/null 2>&1 && echo '#include <tide/tide.h>' > user.c && "
                              "cc -fsyntax-only -Iimage/usr/local/include user.c");
  EXPECT_NE(moved.out.find("target_include_directories(tide PRIVATE util)"), std::string::npos) << moved.told;
}

// Found in a real library: what is installed is filled in from a template, which includes a header beside it.
TEST(CMakeShapes, a_template_that_is_installed_still_finds_headers_there) {
  std::string fill_in = "configure_file(tide.h.in tide.h)\n";
  std::string install =
      "set(HEADERS ${PROJECT_BINARY_DIR}/tide.h ${PROJECT_SOURCE_DIR}/level.h)\n"
      "install(FILES ${HEADERS} DESTINATION include/tide)\n";
  for (const std::string& steps : {fill_in + install, install + fill_in}) {
    Workspace tree(
        {{"CMakeLists.txt", "cmake_minimum_required(VERSION 3.10)\nproject(tide C)\n" + steps +
                                "add_library(tide tide.c)\ntarget_include_directories(tide PRIVATE "
                                "${PROJECT_SOURCE_DIR} ${PROJECT_BINARY_DIR})\n"},
         {"tide.h.in", "#include \"level.h\"\nint tide(void);\n"},
         {"level.h", "#define LEVEL 0\n"},
         {"tide.c", "#include \"tide.h\"\nint tide(void) { return LEVEL; }\n"}});
    expect_move_keeps_build(tree, "level.h -> util/level.h\n",
                            "(cmake -B b . && make -C b && make -C b install DESTDIR=$PWD/image) "
                            ">/dev/null 2>&1 && echo '#include <tide/tide.h>' > user.c && "
                            "cc -fsyntax-only -Iimage/usr/local/include user.c");
  }
}

TEST(CMakeShapes, wildcards_take_names_that_begin_with_a_dot) {
  Workspace tree({{"CMakeLists.txt",
                   "cmake_minimum_required(VERSION 3.10)\nproject(tide NONE)\nfile(GLOB kept \"data/*\")\n"
                   "file(COPY ${kept} DESTINATION kept)\n"},
                  {"data/.levels", "1\n"},
                  {"data/table", "2\n"}});
  Outcome moved =
      expect_move_keeps_build(tree, "data/.levels -> other/.levels\n",
                              "cmake -B b . >/dev/null && test -e b/kept/.levels && test -e b/kept/table");
  EXPECT_NE(moved.out.find("other/"), std::string::npos) << moved.told;
}

}  // namespace
}  // namespace yc::test
