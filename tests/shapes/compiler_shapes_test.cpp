// Compilers that a makefile names in part, what they leave behind, and headers that stand in for the
// system's.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/station.h"

namespace yc::test {
namespace {

using ::testing::HasSubstr;

// A header below a folder that is searched, and one step from source to program.
Files gauge_by(const std::string& compiler, const std::string& command) {
  return {{"Makefile", compiler + "CPPFLAGS += -Iinc\nstation: main.c\n\t" + command + "\n"},
          {"main.c", "#include <tide/gauge.h>\nint main(void) { return LEVEL - 1; }\n"},
          {"inc/tide/gauge.h", "#define LEVEL 1\n"}};
}

class NamedInPart : public ::testing::TestWithParam<std::pair<const char*, const char*>> {};

TEST_P(NamedInPart, compiler_is_known_by_the_end_of_its_name) {
  Workspace tree(gauge_by(GetParam().first, GetParam().second));
  expect_move_says(tree, "inc/tide/gauge.h -> inc/tide/level.h\n", {"#include <tide/level.h>"}, kRun);
}

INSTANTIATE_TEST_SUITE_P(
    Compilers, NamedInPart,
    ::testing::Values(std::pair("CC := $(CROSS_COMPILE)gcc\n", "$(CC) $(CPPFLAGS) -o $@ $<"),
                      std::pair("CC := $(shell command -v gcc)\n", "$(CC) $(CPPFLAGS) -o $@ $<"),
                      std::pair("HOSTCC ?= cc\n", "$(HOSTCC) $(CPPFLAGS) $< -o $@"),
                      std::pair("", "$${CC:-cc} $(CPPFLAGS) -o station main.c")));

TEST(CompilerShapes, an_object_stays_where_the_compiler_is_started_whatever_else_is_not_known) {
  Workspace tree({{"Makefile",
                   "OBJS = main.o gauge.o\nVERSION = `cat version`\nstation: $(OBJS)\n\t$(CC) -o $@ $(OBJS)\n"
                   ".c.o:\n\t$(CC) $(MORE) -DVERSION='\"$(VERSION)\"' -c $<\n"},
                  {"version", "1"},
                  {"main.c", "int gauge(void);\nint main(void) { return gauge() - 1; }\n"},
                  {"gauge.c", "int gauge(void) { return 1; }\n"}});
  expect_move_says(tree, "gauge.c -> lib/gauge.c\n", {"-c $< -o $@", "main.o lib/gauge.o"}, kRun);
}

TEST(CompilerShapes, objects_of_a_template_are_known_by_the_usual_ending) {
  Workspace tree(
      {{"makefile.in",
        "o = .@OBJEXT@\nOBJS = main$o gauge$o\nstation: $(OBJS)\n\t@CC@ -o $@ $(OBJS)\n"
        ".SUFFIXES: .c $o\n.c$o:\n\t@ECHO_CC@$(CC) -c @CFLAGS@ $<\n"},
       {"configure", "#!/bin/sh\nsed 's/@OBJEXT@/o/;s/@CC@/cc/;s/@[A-Z_]*@//g' makefile.in > makefile\n"},
       {"main.c", "int gauge(void);\nint main(void) { return gauge() - 1; }\n"},
       {"gauge.c", "int gauge(void) { return 1; }\n"}});
  expect_move_says(tree, "gauge.c -> lib/gauge.c\n", {"@CFLAGS@ $< -o $@", "main$o lib/gauge$o"},
                   "sh ./configure && " + std::string(kRun));
}

TEST(CompilerShapes, an_object_of_a_template_keeps_its_name) {
  Workspace tree({{"Makefile.in",
                   "CC=@CC@\nBUILD=$(CC) -I. @CFLAGS@\nstation: main.o\n\t$(CC) -o $@ main.o\n"
                   "main.o: main.c\n\t$(BUILD) -c main.c\n"},
                  {"setup.sh", "#!/bin/sh\nsed 's/@CC@/cc/;s/@[A-Z_]*@//g' Makefile.in > Makefile\n"},
                  {"main.c", "int main(void) { return 0; }\n"}});
  expect_move_says(tree, "main.c -> start.c\n", {"-c start.c -o main.o"},
                   "sh setup.sh && " + std::string(kRun));
}

TEST(CompilerShapes, a_template_without_its_head_looks_in_its_own_folder) {
  Workspace tree(
      {{"Makefile.in", "check: ; @$(VPATH)/testsuite/check.sh $(VPATH)/testsuite\n"},
       {"configure", "#!/bin/sh\n(echo VPATH = `dirname $0`; cat `dirname $0`/Makefile.in) > Makefile\n"},
       {"testsuite/check.sh", "#!/bin/sh\nexec cat \"$1/level.txt\"\n"},
       {"testsuite/level.txt", "1\n"}});
  tree.shell("chmod +x configure testsuite/check.sh");
  expect_move_says(tree, "testsuite/ -> tests/\n", {"$(VPATH)/tests/check.sh $(VPATH)/tests"},
                   "./configure && make -s check");
}

const Files kStandIn = {
    {"Makefile", "station: main.c\n\t$(CC) -Iinc -o $@ main.c\n"},
    {"main.c", "#include <sys/prctl.h>\nint main(void) { return PR_OF_TREE - 1; }\n"},
    {"inc/linux/prctl.h", "#define PR_OF_TREE 1\n"},
};

// /usr/include/sys/prctl.h includes <linux/prctl.h>.
TEST(CompilerShapes, a_header_that_stands_in_for_the_systems_stays_below_what_is_searched) {
  Workspace tree(kStandIn);
  expect_refusal(tree, "inc/linux/prctl.h -> lib/prctl.h\n", {"stands in for the system's <linux/prctl.h>"});
  expect_move_keeps_build(tree, "inc/ -> include/\n", kRun);
}

TEST(CompilerShapes, a_header_may_not_begin_to_stand_in_for_the_systems) {
  Workspace tree(station("station: main.c gauge.c\n\t$(CC) -Iinc -o $@ $^\n"));
  expect_refusal(tree, "gauge.h -> inc/string.h\n", {"would stand in for the system's <string.h>"});
}

TEST(CompilerShapes, what_is_compared_byte_by_byte_is_not_edited_unseen) {
  Workspace tree({{"Makefile",
                   "station: main.c levels.c made.c\n\tdiff levels.c made.c\n\t$(CC) -o $@ main.c levels.c\n"
                   "made.c: levels.tmpl\n\tcp levels.tmpl $@\n"},
                  {"levels.tmpl", "#include \"levels.h\"\nint levels = LEVELS;\n"},
                  {"levels.c", "#include \"levels.h\"\nint levels = LEVELS;\n"},
                  {"levels.h", "#define LEVELS 1\n"},
                  {"main.c", "extern int levels;\nint main(void) { return levels - 1; }\n"}});
  expect_refusal(tree, "levels.h -> inc/levels.h\n", {"levels.c:1:", "compares it with another file"});
}

TEST(CompilerShapes, a_path_in_a_file_that_is_not_read_holds_a_move_back) {
  Workspace tree({{"Makefile", "include src/list.mk~\nstation: $(SOURCES)\n\t$(CC) -o $@ $^\n"},
                  {"src/list.mk~", "SOURCES = src/main.c\n"},
                  {"station.recipe", "compile src/main.c with care\n"},
                  {"NOTES.md", "See src/main.c.\n"},
                  {"src/main.c", "int main(void) { return 0; }\n"}});
  expect_refusal(tree, "src/main.c -> src/app/main.c\n",
                 {"station.recipe:1:9: names src/main.c, and this kind of file is not read"});
  Outcome rewritten = tree.run({"move", "src/main.c", "src/app/main.c", "--mentions"});
  EXPECT_EQ(rewritten.status, 0) << rewritten.told;
  EXPECT_EQ(tree.read("station.recipe"), "compile src/app/main.c with care\n");
}

// A tool of the project's own puts the list of sources together.
TEST(CompilerShapes, where_the_build_is_not_understood_a_source_is_not_proved) {
  Workspace tree({{"Makefile",
                   "include $(shell ./list)\nstation: $(PARTS)\n\t$(CC) -o $@ $^\n"
                   "clean: ; rm -f station\n"},
                  {"list", "#!/bin/sh\necho PARTS = $(ls) | grep -o '[a-z]*[.]c' > .parts; echo .parts\n"},
                  {"main.c", kMain},
                  {"gauge.c", kGauge},
                  {"gauge.h", kGaugeH}});
  expect_refusal(tree, "gauge.c -> lib/gauge.c\n",
                 {"gauge.c: is a source that nothing which is read here takes or names"});
  expect_move_keeps_build(tree, "gauge.h -> inc/gauge.h\n", "true");
}

TEST(CompilerShapes, where_the_build_is_understood_what_it_does_not_build_may_move) {
  Workspace tree(station("station: main.c gauge.c\n\t$(CC) -o $@ $^\n"));
  tree.write("attic/probe.c", "int main(void) { return 0; }\n");
  tree.write("level.txt.in", "@LEVEL@\n");
  expect_move_keeps_build(tree, "attic/probe.c -> probe/probe.c\n", kRun);
  expect_refusal(tree, "level.txt.in -> data/level.txt.in\n",
                 {"level.txt.in: is a template that nothing which is read here takes or names"});
}

TEST(CompilerShapes, an_include_that_a_script_writes_holds_its_header_back) {
  Workspace tree(
      station("station: main.c gauge.c version.c\n\t$(CC) -o $@ $^\n"
              "version.c: version.sh\n\tsh ./version.sh > $@\n"));
  tree.write("version.sh", "#!/bin/sh\necho '#include \"gauge.h\"'\necho 'int version = 1;'\n");
  for (const char* to : {"inc/level.h", "inc/gauge.h"})
    expect_refusal(tree, std::string("gauge.h -> ") + to + "\n",
                   {"version.sh:2:17: \"gauge.h\" may be written into a source"});
}

}  // namespace
}  // namespace yc::test
