// What a project installs is used by others: the build is its own, and then that of somebody who includes the
// headers where they are installed.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

// Builds and installs, and compiles a source that includes the library's header by its installed path.
const char* const kUse =
    "(cmake -S . -B b && make -C b && make -C b install DESTDIR=$PWD/image) >/dev/null 2>&1 && "
    "echo \"#include <$(cd image/usr/local/include && find . -name '*level.h')>\" > user.c && "
    "cc -fsyntax-only -Iimage/usr/local/include user.c && rm -r b image user.c";

// A library with three headers that are installed below tide/, and one that is not.
Files library(const std::string& rules, const std::string& install) {
  return {{"CMakeLists.txt",
           "cmake_minimum_required(VERSION 3.23)\nproject(tide C)\n"
           "add_library(tide src/level.c)\n" +
               rules + install},
          {"include/tide/level.h", "#include \"units.h\"\n#include <tide/base.h>\nint level(void);\n"},
          {"include/tide/units.h", "typedef int cm;\n"},
          {"include/tide/base.h", ""},
          {"include/tide/spare.h", ""},
          {"src/level.c", "#include <tide/level.h>\n#include \"own.h\"\nint level(void) { return OWN; }\n"},
          {"src/own.h", "#define OWN 1\n"}};
}

// A library whose first source includes two headers of a folder that the rules have it search.
Files two_sources(const std::string& rules) {
  return {{"CMakeLists.txt",
           "cmake_minimum_required(VERSION 3.16)\nproject(tide C)\nadd_library(tide a.c b.c)\n" + rules},
          {"a.c", "#include <own.h>\n#include <more.h>\n"},
          {"b.c", ""},
          {"meta/own.h", ""},
          {"meta/more.h", ""}};
}

const char* const kBuild = "(cmake -S . -B b && make -C b) >/dev/null 2>&1 && rm -r b";

const char* const kHeaders =
    "include/tide/level.h include/tide/units.h include/tide/base.h include/tide/spare.h";

TEST(InstalledShapes, file_sets) {
  Workspace tree(library(
      std::string("target_sources(tide PUBLIC FILE_SET HEADERS BASE_DIRS include FILES ") + kHeaders + ")\n",
      "install(TARGETS tide FILE_SET HEADERS)\n"));
  expect_refusal(tree, "include/tide/spare.h -> api/spare.h\n", {"lie below its base folders", "BASE_DIRS"});
  expect_move_keeps_build(tree, "include/tide/units.h -> include/tide/units/cm.h\n", kUse);
  expect_move_keeps_build(tree, "include -> api\n", kUse);
  expect_move_keeps_build(tree, "src/own.h -> src/parts/own.h\n", kUse);
}

TEST(InstalledShapes, folders_by_patterns) {
  Workspace tree(library(
      "target_include_directories(tide PUBLIC \"$<BUILD_INTERFACE:${CMAKE_CURRENT_LIST_DIR}/include>\"\n"
      "                                       \"$<INSTALL_INTERFACE:include>\")\n",
      "install(TARGETS tide EXPORT tide DESTINATION lib)\n"
      "install(EXPORT tide FILE tide.cmake DESTINATION lib/cmake)\n"
      "install(DIRECTORY include/ DESTINATION include FILES_MATCHING PATTERN *.h)\n"));
  expect_refusal(tree, "include/tide/units.h -> src/units.h\n",
                 {"level.h:1:11", "whoever uses what is installed would not find it"});
  expect_refusal(tree, "include/tide/spare.h -> src/spare.h\n", {"would not be installed any more"});
  expect_move_keeps_build(tree, "src/own.h -> include/tide/own.h\n", kUse);
  expect_move_keeps_build(tree, "include/tide/units.h -> include/tide/units/cm.h\n", kUse);
  expect_move_keeps_build(tree, "include -> api\n", kUse);
}

TEST(InstalledShapes, a_folder_that_is_searched_beside_one_of_the_build_alone) {
  Workspace tree(
      two_sources("target_include_directories(tide PUBLIC "
                  "\"$<BUILD_INTERFACE:${CMAKE_CURRENT_LIST_DIR}/meta>\")\n"
                  "install(TARGETS tide EXPORT tide DESTINATION lib)\n"
                  "install(EXPORT tide FILE tide.cmake DESTINATION lib/cmake)\n"));
  expect_move_says(tree, "meta/own.h -> core/own.h\n",
                   {"$<BUILD_INTERFACE:${CMAKE_CURRENT_SOURCE_DIR}/core>"}, kBuild);
}

TEST(InstalledShapes, headers_and_folders_in_properties) {
  const std::string headers =
      "include/tide/level.h;include/tide/units.h;include/tide/base.h;include/tide/spare.h";
  const std::string install = "install(TARGETS tide PUBLIC_HEADER DESTINATION include/tide)\n";
  Workspace tree(
      library("set_target_properties(tide PROPERTIES INCLUDE_DIRECTORIES ${PROJECT_SOURCE_DIR}/include\n"
              "                                      PUBLIC_HEADER \"" +
                  headers + "\")\n",
              install));
  expect_refusal(tree, "include/tide/units.h -> api/units.h\n", {"level.h:1:11"});
  expect_move_keeps_build(tree, "include/tide/spare.h -> api/spare.h\n", kUse);
  expect_move_keeps_build(tree, "include -> api\n", kUse);
  Workspace added(
      library("set_property(TARGET tide APPEND PROPERTY INCLUDE_DIRECTORIES ${PROJECT_SOURCE_DIR}/include)\n"
              "set_property(TARGET tide PROPERTY PUBLIC_HEADER include/tide/level.h)\n",
              "install(DIRECTORY include/tide DESTINATION include PATTERN level.h EXCLUDE)\n" + install));
  expect_move_keeps_build(added, "include -> api\n", kUse);
  expect_refusal(added, "include/tide/base.h -> api/base.h\n", {"level.h:2:11"});
}

TEST(InstalledShapes, folders_that_one_source_searches) {
  for (const char* rule :
       {"COMPILE_OPTIONS -I${PROJECT_SOURCE_DIR}/meta", "INCLUDE_DIRECTORIES ${PROJECT_SOURCE_DIR}/meta",
        "COMPILE_FLAGS \"-DX=1 -I${PROJECT_SOURCE_DIR}/meta\""}) {
    Workspace tree(two_sources("set_source_files_properties(a.c PROPERTIES " + std::string(rule) + ")\n"));
    expect_move_keeps_build(tree, "meta -> core/meta\n", kBuild);
    expect_move_keeps_build(tree, "meta/own.h -> meta/named.h\n", kBuild);
  }
}

TEST(InstalledShapes, meson_installs_folders) {
  Workspace tree(Files{{"meson.build",
                        "project('tide', 'c')\nlibrary('tide', 'a.c', include_directories: 'include')\n"
                        "install_subdir('include/tide', install_dir: get_option('includedir'),\n"
                        "  exclude_files: ['own.h'])\n"},
                       {"a.c", "#include <tide/level.h>\n#include <tide/own.h>\n"},
                       {"include/tide/level.h", "#include \"units.h\"\n"},
                       {"include/tide/units.h", ""},
                       {"include/tide/own.h", ""}});
  const char* build =
      "(meson setup b . --prefix=/usr && ninja -C b && DESTDIR=$PWD/image meson install -C b) >/dev/null "
      "2>&1 && "
      "echo '#include <tide/level.h>' > user.c && cc -fsyntax-only -Iimage/usr/include user.c && "
      "rm -r b image user.c";
  expect_refusal(tree, "include/tide/units.h -> src/units.h\n", {"level.h:1:11"});
  expect_move_keeps_build(tree, "include/tide/own.h -> src/own.h\n", build);
  expect_move_keeps_build(tree, "include -> api\n", build);
}

TEST(InstalledShapes, folders_in_the_environment_of_tests) {
  for (const char* given :
       {"{'D': meson.current_source_dir() / 'cases'}", "['D=' + meson.current_source_dir() / 'cases']",
        "environment({'D': meson.current_source_dir() / 'cases'})"}) {
    Workspace tree(
        Files{{"meson.build",
               std::string("project('tide', 'c')\ntest('t', find_program('t.sh'), env: ") + given + ")\n"},
              {"t.sh", "#!/bin/sh\nls \"$D\" | grep -q x\n"},
              {"cases/x", ""}});
    tree.shell("chmod +x t.sh");
    expect_move_keeps_build(tree, "cases -> data/cases\n",
                            "(meson setup b . && meson test -C b) >/dev/null 2>&1 && rm -r b");
  }
}

}  // namespace
}  // namespace yc::test
