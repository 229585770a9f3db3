// Compilation databases: what they tell of contexts, and when they are not believed.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::HasSubstr;
using ::testing::IsEmpty;

ReferenceGraph graph_of(const std::string& database, const std::string& name = "compile_commands.json") {
  return read(tree_of({{name, database},
                       {"src/a.c", "#include \"net/tide.h\"\n"},
                       {"src/b.c", ""},
                       {"include/net/tide.h", ""},
                       {"other/net/tide.h", ""}}));
}

std::string entry(const std::string& command, const std::string& file = "/home/gauge/tide/src/a.c",
                  const std::string& directory = "/home/gauge/tide/build") {
  return "{\"directory\": \"" + directory + "\", \"command\": \"" + command + "\", \"file\": \"" + file +
         "\"}";
}

TEST(CompileDatabase, gives_the_search_roots_of_its_sources) {
  for (const char* flag : {"-I/home/gauge/tide/include", "-I../include", "-isystem ../include"}) {
    ReferenceGraph graph =
        graph_of("[" + entry("cc " + std::string(flag) + " -c /home/gauge/tide/src/a.c") + "]");
    EXPECT_THAT(compiled(graph), ElementsAre("src/a.c [include]")) << flag;
    EXPECT_THAT(dump(graph, Role::include), ElementsAre("net/tide.h -> include/net/tide.h")) << flag;
  }
}

TEST(CompileDatabase, arguments_and_escapes) {
  ReferenceGraph graph = graph_of(
      "[{\"directory\": \"/t/tide\", \"file\": \"src/a.c\",\n  \"arguments\": [\"cc\", \"-Iinclude\", "
      "\"-DX=\\\"y\\\"\", \"-c\", "
      "\"src/a.c\"]}]");
  EXPECT_THAT(compiled(graph), ElementsAre("src/a.c [include]"));
  graph = graph_of("[" + entry("cc -DX=\\\\\\\"y\\\\\\\" -Iother -c src/a.c", "/t/tide/src/a.c", "/t/tide") +
                   "]");
  EXPECT_THAT(compiled(graph), ElementsAre("src/a.c [other]"));
}

TEST(CompileDatabase, one_that_does_not_fit_is_not_used_and_told) {
  std::string gone = entry("cc -Iinclude -c a.c", "/home/gauge/tide/src/gone.c");
  ReferenceGraph graph =
      graph_of("[" + entry("cc -I../include -c ../src/a.c") + ", " + gone + ", " + gone + "]");
  EXPECT_THAT(compiled(graph), IsEmpty());
  EXPECT_THAT(notices(graph), Contains(HasSubstr("stale-database")));
  EXPECT_THAT(notices(graph_of("[" + entry("cc -c x.c", "/elsewhere/x.c") + "]")),
              Contains(HasSubstr("stale-database")));
}

TEST(CompileDatabase, garbled_ones_are_survived) {
  for (const char* text : {"", "[", "[{}]", "{\"file\": \"x\"}", "[{\"file\": 3, \"directory\": \"/\"}]",
                           "[{\"directory\": \"\", \"file\": \"\", \"command\": \"\"}]"})
    EXPECT_NO_FATAL_FAILURE(graph_of(text));
}

}  // namespace
}  // namespace yc::test
