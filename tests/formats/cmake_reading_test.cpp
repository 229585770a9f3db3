// What is read from a CMake script: a table of snippets and the references that they hold.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsSupersetOf;

ReferenceGraph graph_of(const std::string& script) {
  return read(tree_of({{"CMakeLists.txt", script},
                       {"main.c", ""},
                       {"tide.c", ""},
                       {"src/a.c", ""},
                       {"src/b.c", ""},
                       {"inc/tide.h", ""},
                       {"sub/CMakeLists.txt", "add_library(sub x.c)\n"},
                       {"sub/x.c", ""},
                       {"cmake/More.cmake", "set(EXTRA tide.c)\n"},
                       {"tools/gen.sh", ""}}));
}

TEST(CMakeReading, sources_of_targets) {
  const std::vector<std::pair<std::string, std::vector<std::string>>> cases = {
      {"add_executable(p main.c)", {"main.c -> main.c"}},
      {"ADD_EXECUTABLE( p \"main.c\" [[tide.c]] )", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"set(S main.c tide.c)\nadd_library(p ${S})", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"set(S main.c)\nlist(APPEND S tide.c)\nadd_library(p STATIC ${S})",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      {"set(S main.c tide.c)\nlist(REMOVE_ITEM S tide.c)\nadd_library(p ${S})", {"main.c -> main.c"}},
      {"set(S main.c x.txt)\nlist(FILTER S INCLUDE REGEX \"[.]c$\")\nadd_library(p ${S})",
       {"main.c -> main.c"}},
      {"set(D src)\nadd_library(p ${CMAKE_CURRENT_SOURCE_DIR}/${D}/a.c)", {"@/src/a.c -> src/a.c"}},
      {"foreach(n a b)\nadd_library(${n} src/${n}.c)\nendforeach()",
       {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"set(L a b)\nforeach(n IN LISTS L ITEMS a)\nadd_library(${n} src/${n}.c)\nendforeach()",
       {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"function(f n)\nadd_library(${n} src/${n}.c ${ARGN})\nendfunction()\nf(a tide.c)",
       {"src/a.c -> src/a.c", "tide.c -> tide.c"}},
      {"macro(f n)\nadd_library(${n} src/${n}.c)\nendmacro()\nF(b)", {"src/b.c -> src/b.c"}},
      {"function(f)\nset(R tide.c PARENT_SCOPE)\nendfunction()\nf()\nadd_library(p ${R})",
       {"tide.c -> tide.c"}},
      {"function(f)\ncmake_parse_arguments(A \"\" \"NAME\" \"SRCS\" ${ARGN})\nadd_library(${A_NAME} "
       "${A_SRCS})\nendfunction()\nf(NAME p SRCS main.c tide.c)",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      {"add_library(p)\ntarget_sources(p PRIVATE main.c PUBLIC tide.c)",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      {"add_library(p $<$<BOOL:${X}>:main.c> $<IF:$<CONFIG:Debug>,tide.c,src/a.c>)",
       {"main.c -> main.c", "src/a.c -> src/a.c", "tide.c -> tide.c"}},
      {"if(X)\nset(S main.c)\nelseif(Y)\nset(S tide.c)\nelse()\nset(S src/a.c)\nendif()\nadd_library(p ${S})",
       {"main.c -> main.c", "src/a.c -> src/a.c", "tide.c -> tide.c"}},
      {"string(REPLACE \"-x\" \"\" n a-x)\nadd_library(p src/${n}.c)", {"src/a.c -> src/a.c"}},
      {"get_filename_component(n z/a.h NAME_WE)\nadd_library(p src/${n}.c)", {"src/a.c -> src/a.c"}},
      {"include(cmake/More.cmake)\nadd_library(p ${EXTRA})", {"tide.c -> tide.c"}},
      {"list(APPEND CMAKE_MODULE_PATH \"${CMAKE_CURRENT_LIST_DIR}/cmake\")\ninclude(More)\nadd_library(p "
       "${EXTRA})",
       {"tide.c -> tide.c"}},
      {"add_subdirectory(sub)", {"x.c -> sub/x.c"}},
      {"add_library(p main.c) # tide.c\n#[[ add_library(q tide.c) ]]", {"main.c -> main.c"}},
  };
  for (const auto& [script, expected] : cases)
    EXPECT_THAT(dump(graph_of(script + "\n"), Role::source), IsSupersetOf(expected)) << script;
}

TEST(CMakeReading, patterns_and_search_roots) {
  auto graph = graph_of(
      "file(GLOB S src/*.c)\nadd_library(p ${S})\ntarget_include_directories(p PUBLIC "
      "$<BUILD_INTERFACE:${CMAKE_CURRENT_SOURCE_DIR}/inc>)\n");
  EXPECT_THAT(dump(graph, Role::pattern), ElementsAre("src/*.c -> src/a.c src/b.c"));
  EXPECT_THAT(dump(graph, Role::search_root), ElementsAre("@/inc -> inc"));
}

TEST(CMakeReading, libraries_pass_their_search_roots_on) {
  auto graph = graph_of(
      "add_library(l tide.c)\ntarget_include_directories(l PUBLIC inc)\nadd_executable(p "
      "main.c)\ntarget_link_libraries(p PRIVATE l)\n");
  bool found = false;
  for (const Compilation& item : graph.compilations) {
    if (item.source.str() != "main.c") continue;
    for (const SearchRoot& root : graph.contexts[static_cast<std::size_t>(item.context)].roots)
      found = found || root.place.path.str() == "inc";
  }
  EXPECT_TRUE(found);
}

TEST(CMakeReading, commands_and_other_arguments) {
  EXPECT_THAT(dump(graph_of("add_custom_command(OUTPUT x COMMAND sh ${CMAKE_CURRENT_SOURCE_DIR}/tools/gen.sh "
                            "DEPENDS tools/gen.sh)\n"),
                   Role::argument),
              Contains("@/tools/gen.sh -> tools/gen.sh ?"));
  EXPECT_THAT(dump(graph_of("some_macro_nobody_knows(FILES tools/gen.sh)\n"), Role::argument),
              Contains("tools/gen.sh -> tools/gen.sh ?"));
  EXPECT_THAT(dump(graph_of("some_macro_nobody_knows(src)\n"), Role::argument), ::testing::IsEmpty());
}

TEST(CMakeReading, unknown_values_are_holes) {
  EXPECT_THAT(holes(graph_of("add_library(p src/${PLATFORM}.c)\n")), Contains("src/*.c"));
  EXPECT_THAT(holes(graph_of("add_library(p $ENV{X}/a.c)\n")), Contains("*/a.c"));
}

TEST(CMakeReading, comparisons_are_decided_only_in_loops_and_calls) {
  auto one = graph_of(
      "foreach(n a b)\nif(\"${n}\" STREQUAL \"a\")\nadd_library(${n} src/${n}.c)\nelse()\nadd_library(${n} "
      "tide.c)\nendif()\nendforeach()\n");
  EXPECT_THAT(dump(one, Role::source),
              ElementsAre("src/a.c -> src/a.c", "tide.c -> tide.c", "x.c -> sub/x.c"));
  auto two = graph_of(
      "set(n a)\nif(\"${n}\" STREQUAL \"a\")\nadd_library(p src/a.c)\nelse()\nadd_library(p "
      "tide.c)\nendif()\n");
  EXPECT_THAT(dump(two, Role::source),
              ElementsAre("src/a.c -> src/a.c", "tide.c -> tide.c", "x.c -> sub/x.c"));
}

// Each call has variables of its own, or gives them a value on both sides: no run is needed for each call.
TEST(CMakeReading, routines_that_are_called_often_take_no_runs_of_their_own) {
  std::string function =
      "function(add_gauge name)\nif(${name}_FAST)\nset(S src/a.c)\nendif()\nif(NOT S)\nset(S src/b.c)\n"
      "endif()\nadd_library(${name} ${S})\nendfunction()\n";
  std::string macro =
      "macro(add_pole name)\nif(${name}_FAST)\nset(S src/a.c)\nelse()\nset(S src/b.c)\nendif()\n"
      "add_library(${name} ${S})\nendmacro()\n";
  for (int i = 0; i < 120; ++i) {
    function += "add_gauge(g" + std::to_string(i) + ")\n";
    macro += "add_pole(p" + std::to_string(i) + ")\n";
  }
  for (const std::string& script : {function, macro}) {
    ReferenceGraph graph = graph_of(script);
    EXPECT_THAT(notices(graph), testing::Each(testing::Not(testing::HasSubstr("many-conditions"))));
    EXPECT_THAT(dump(graph, Role::source), IsSupersetOf({"src/a.c -> src/a.c", "src/b.c -> src/b.c"}));
  }
}

TEST(CMakeReading, an_argument_that_a_call_does_not_give_is_empty) {
  auto graph = graph_of(
      "macro(add_gauge name)\nif(\"${ARGV1}\" STREQUAL \"WITH\")\nadd_library(${name} main.c)\nelse()\n"
      "add_library(${name} src/a.c)\nendif()\nendmacro()\nadd_gauge(p)\n");
  EXPECT_THAT(dump(graph, Role::source), testing::Not(Contains("main.c -> main.c")));
}

TEST(CMakeReading, garbled_scripts_are_told_and_survived) {
  const std::vector<std::pair<std::string, std::string>> cases = {
      {"add_library(p main.c\n", "garbled-script CMakeLists.txt"},
      {"add_library(p \"main.c)\n", "garbled-script CMakeLists.txt"},
      {")\n", "garbled-script CMakeLists.txt"},
      {"if(X)\nadd_library(p main.c)\n", "garbled-script CMakeLists.txt"},
      {"include(CMakeLists.txt)\n", "include-cycle CMakeLists.txt"},
      {std::string("set(\0)\n", 7), "binary-script CMakeLists.txt"},
  };
  for (const auto& [script, expected] : cases)
    EXPECT_THAT(notices(graph_of(script)), Contains(expected)) << script;
  for (const char* text :
       {"set(", "set(A ${", "set(A ${${${", "set(A $<$<$<", "set(A \"\\", "[[[", "#[[", "foreach(",
        "endforeach()", "function(f)\nf()\nendfunction()\nf()", "while(1)\nendwhile()", "set(A ${A}${A})",
        "macro(m)\nm()\nm()\nendmacro()\nm()\n"}) {
    (void)graph_of(text);
  }
}

TEST(CMakeReading, runaway_values_end) {
  std::string script = "set(A xxxxxxxxxx)\n";
  for (int i = 0; i < 60; ++i) script += "set(A ${A}${A})\n";
  EXPECT_THAT(notices(graph_of(script)), Contains("runaway-script CMakeLists.txt"));
}

}  // namespace
}  // namespace yc::test
