// What is read from a makefile: a table of snippets and the references that they hold.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::ElementsAreArray;
using ::testing::IsEmpty;

// A tree with a few sources, headers and folders, and this makefile.
ReferenceGraph graph_of(const std::string& makefile) {
  return read(tree_of({{"Makefile", makefile},
                       {"main.c", ""},
                       {"tide.c", ""},
                       {"src/a.c", ""},
                       {"src/b.c", ""},
                       {"src/b.txt", ""},
                       {"lib/c.c", ""},
                       {"inc/tide.h", ""},
                       {"sub/Makefile", "x.o: x.c\n"},
                       {"sub/x.c", ""},
                       {"more.mk", "EXTRA = tide.c\n"}}));
}

TEST(MakeReading, functions_over_lists_of_sources) {
  const std::vector<std::pair<std::string, std::vector<std::string>>> cases = {
      {"p: main.c", {"main.c -> main.c"}},
      {"S = src\np: $(S)/a.c ${S}/b.c", {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"L := a b\np: $(L:%=src/%.c)", {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"L = src/a.o\np: $(L:.o=.c)", {"src/a.c -> src/a.c"}},
      {"p: $(patsubst %.o,src/%.c,a.o b.o)", {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"p: $(addprefix src/,a.c b.c)", {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"p: $(addsuffix .c,main $(basename tide.o))", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"p: $(foreach n,a b,src/$(n).c)", {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"p: $(filter %.c,main.c notes.txt)", {"main.c -> main.c"}},
      {"p: $(filter-out tide.c,main.c tide.c)", {"main.c -> main.c"}},
      {"p: $(sort tide.c main.c main.c)", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"p: $(wildcard src/*.c)", {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"p: $(addprefix src/,$(notdir x/a.c))", {"src/a.c -> src/a.c"}},
      {"p: $(dir src/q.h)a.c", {"src/a.c -> src/a.c"}},
      {"p: $(abspath main.c)", {"@/main.c -> main.c"}},
      {"p: $(subst .x,.c,main.x)", {"main.c -> main.c"}},
      {"p: $(firstword main.c tide.c) $(word 2,x src/a.c)", {"main.c -> main.c", "src/a.c -> src/a.c"}},
      {"p: $(if $(DEBUG),main.c,tide.c)", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"f = src/$(1).c\np: $(call f,a)", {"src/a.c -> src/a.c"}},
      {"define list\nmain.c\ntide.c\nendef\np: $(list)", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"A = main.c\nA += tide.c\np: $(A)", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"A ?= main.c\np: $(A)", {"main.c -> main.c"}},
      {"$(eval A := main.c)\np: $(A)", {"main.c -> main.c"}},
      {"include more.mk\np: $(EXTRA)", {"tide.c -> tide.c"}},
      {"p: main.c \\\n  tide.c # lib/c.c", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"VPATH = src\np: a.c", {"a.c -> src/a.c"}},
      {"vpath %.c lib\np: c.c", {"c.c -> lib/c.c"}},
      {"ifdef X\np: main.c\nelse\np: tide.c\nendif", {"main.c -> main.c", "tide.c -> tide.c"}},
      // Indented behind a rule that stands on another side: no command.
      {"ifdef X\np: main.c\nendif\nifdef Y\n\tL = tide.c\nendif\nq: $(L)",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      {"ifeq (a,b)\nifneq '1' '2'\np: main.c\nendif\nelse ifdef Y\np: tide.c\nendif",
       {"main.c -> main.c", "tide.c -> tide.c"}},
  };
  for (const auto& [makefile, expected] : cases)
    EXPECT_THAT(dump(graph_of(makefile + "\n"), Role::source), ::testing::IsSupersetOf(expected)) << makefile;
}

TEST(MakeReading, object_names_its_source) {
  EXPECT_THAT(dump(graph_of("p: main.o\n\t$(CC) -o $@ $^\n"), Role::source),
              ElementsAre("main.c -> main.c", "x.c -> sub/x.c"));
  EXPECT_THAT(dump(graph_of("out/%.o: src/%.c\n\t$(CC) -c -o $@ $<\np: out/a.o\n"), Role::source),
              ElementsAre("src/a.c -> src/a.c", "x.c -> sub/x.c"));
}

TEST(MakeReading, options_of_recipes) {
  auto graph = graph_of("p: main.c\n\t$(CC) -Iinc -I src -include inc/tide.h -Wl,-T,src/b.txt -o $@ $<\n");
  EXPECT_THAT(dump(graph, Role::search_root), ElementsAre("inc -> inc", "src -> src"));
  EXPECT_THAT(dump(graph, Role::argument), ElementsAre("src/b.txt -> src/b.txt ?"));
}

TEST(MakeReading, working_folder_is_followed) {
  auto graph = graph_of("p:\n\tcd src && cp b.txt ../lib/\n\t(cd lib; cat c.c) > out.txt\n\tcat main.c\n");
  EXPECT_THAT(dump(graph, Role::argument),
              ::testing::IsSupersetOf({"b.txt -> src/b.txt ?", "c.c -> lib/c.c ?", "main.c -> main.c ?"}));
}

TEST(MakeReading, child_makes) {
  auto graph = graph_of("all:\n\t$(MAKE) -C sub x.o\n");
  EXPECT_THAT(dump(graph, Role::subfolder), ElementsAre("sub -> sub"));
}

TEST(MakeReading, shell_output_is_a_hole) {
  EXPECT_THAT(holes(graph_of("V := $(shell uname)\np: src/$(V).c\n")), ElementsAre("src/*.c"));
  EXPECT_THAT(holes(graph_of("p: main.c\n")), IsEmpty());
}

TEST(MakeReading, garbled_scripts_are_told_and_survived) {
  const std::vector<std::pair<std::string, std::string>> cases = {
      {"ifdef X\np: main.c\n", "garbled-script Makefile"},
      {"endif\n", "garbled-script Makefile"},
      {"else\n", "garbled-script Makefile"},
      {"define x\nnever ends\n", "garbled-script Makefile"},
      {"A = $(A)\np: $(A)\n", "self-reference Makefile"},
      {"include Makefile\n", "include-cycle Makefile"},
      {std::string("p: \0main.c\n", 11), "binary-script Makefile"},
  };
  for (const auto& [makefile, expected] : cases)
    EXPECT_THAT(notices(graph_of(makefile)), ::testing::Contains(expected)) << makefile;
  for (const char* text : {"p: $(", "p: ${X", "$(((((", ":", "=", "\t\n", "p:\n\t$", "$(call f", "$(foreach",
                           "$(eval $(eval $(eval", "\\\n\\\n\\", "a: b: c: d", "%: %",
                           "%.o:", "f = $(call f)$(call f)\np: $(call f)\n"}) {
    (void)graph_of(text);
  }
}

TEST(MakeReading, runaway_definitions_end) {
  std::string text = "A0 = xxxxxxxxxx\n";
  for (int i = 1; i < 40; ++i)
    text +=
        "A" + std::to_string(i) + " = $(A" + std::to_string(i - 1) + ")$(A" + std::to_string(i - 1) + ")\n";
  EXPECT_THAT(notices(graph_of(text + "p: $(A39)\n")), ::testing::Contains("runaway-expansion Makefile"));
}

}  // namespace
}  // namespace yc::test
