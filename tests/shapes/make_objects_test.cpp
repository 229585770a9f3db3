// Where the compilers that make starts put their objects, and what they are told: moved, built with make,
// taken back.
#include <gtest/gtest.h>

#include "support/station.h"

namespace yc::test {
namespace {

// "cc -c $<" leaves the object where make was started.
TEST(MakeObjects, compiler_that_names_no_object_is_told_its_name) {
  Workspace tree(station(".c.o:\n\t$(CC) -c $<\nstation: main.o gauge.o\n\t$(CC) -o $@ main.o gauge.o\n"));
  Outcome moved =
      expect_move_says(tree, "gauge.c -> lib/gauge.c\ngauge.h -> lib/gauge.h\n", {"$(CC) -c $< -o $@"}, kRun);
  Outcome renamed = expect_move_keeps_build(tree, "gauge.c -> level.c\n", kRun);
  EXPECT_EQ(renamed.out.find("-o $@\n"), std::string::npos) << "it is called after the source";
}

TEST(MakeObjects, object_for_which_nothing_makes_a_folder_is_refused) {
  Workspace tree(
      station("OBJS = src/main.o src/gauge.o\nstation: $(OBJS)\n\t$(CC) -o $@ $(addprefix out/,$(OBJS))\n"
              "%.o: %.c\n\tmkdir -p out/src\n\t$(CC) -c -o out/$@ $<\n",
              "src/"));
  expect_refusal(tree, "src/gauge.c -> lib/gauge.c\nsrc/gauge.h -> lib/gauge.h\n",
                 {"out/lib/gauge.o", "nothing makes the folder out/lib"});
  expect_move_keeps_build(tree, "src/gauge.c -> src/level.c\n", kRun);
}

// "$(OBJS): %.o: %.c": each object lies where its source does, also where others stay in the folder.
TEST(MakeObjects, one_of_many_targets_of_a_rule_goes_with_its_source) {
  Workspace tree(
      station("SRC = src/main.c src/gauge.c\nOBJS = $(SRC:.c=.o)\nstation: $(OBJS)\n\t$(CC) -o $@ $(OBJS)\n"
              "$(OBJS): %.o: %.c src/gauge.h\n\t$(CC) -Isrc -c -o $@ $<\n",
              "src/"));
  for (const std::string goal : {"lib/gauge.c", "src/parts/gauge.c", "src/level.c", "gauge.c"})
    expect_move_says(tree, "src/gauge.c -> " + goal + "\n", {"SRC = src/main.c " + goal}, kRun);
}

TEST(MakeObjects, variables_called_after_a_target_follow_it) {
  Workspace by_target(
      station("gauge.o-flags = -DLEVEL=1\nstation: main.o gauge.o\n\t$(CC) -o $@ $^\n"
              "%.o: %.c\n\t$(CC) $($(@)-flags) -c -o $@ $<\n"));
  by_target.write("gauge.c", "#include \"gauge.h\"\nint gauge(void) { return LEVEL; }\n");
  expect_move_says(by_target, "gauge.c -> lib/gauge.c\n", {"lib/gauge.o-flags = -DLEVEL=1"}, kRun);
  Workspace by_stem(
      station("FLAGS_gauge = -DLEVEL=1\nFLAGS_main = -DMAIN\nstation: main.o gauge.o\n\t$(CC) -o $@ $^\n"
              "%.o: %.c\n\t$(CC) $(FLAGS_$*) -c -o $@ $<\n"));
  by_stem.write("gauge.c", "#include \"gauge.h\"\nint gauge(void) { return LEVEL; }\n");
  expect_move_says(by_stem, "gauge.c -> level.c\n", {"FLAGS_level = -DLEVEL=1"}, kRun);
}

// A header that a rule makes is found beside the source, as if it were one of the tree.
TEST(MakeObjects, header_that_a_rule_makes_beside_is_still_found) {
  Workspace by_rule(
      station("station: main.o gauge.o\n\t$(CC) -o $@ $^\nmain.o gauge.o: level.h\n"
              "level.h: level.in\n\tcp level.in $@\n"));
  by_rule.write("level.in", "#define LEVEL 1\n");
  by_rule.write("gauge.c", "#include \"gauge.h\"\n#include \"level.h\"\nint gauge(void) { return LEVEL; }\n");
  expect_move_keeps_build(by_rule, "gauge.c -> lib/gauge.c\n", kRun);
  Workspace by_pattern(
      station("station: main.o gauge.o\n\t$(CC) -o $@ $^\nmain.o gauge.o: level.h\n"
              "%.h: %.in\n\tcp $< $@\n"));
  by_pattern.write("level.in", "#define LEVEL 1\n");
  by_pattern.write("gauge.c",
                   "#include \"gauge.h\"\n#include \"level.h\"\nint gauge(void) { return LEVEL; }\n");
  expect_move_keeps_build(by_pattern, "gauge.c -> lib/gauge.c\n", kRun);
  expect_move_keeps_build(by_pattern, "gauge.c -> level/gauge.c\nlevel.in -> level/level.in\n", kRun);
}

TEST(MakeObjects, header_that_a_script_writes_beside_is_still_found) {
  Workspace tree(station("station: main.o gauge.o\n\t$(CC) -o $@ $^\n"));
  tree.write("configure", "#!/bin/sh\nexec > level.h\necho '#define LEVEL 1'\n");
  tree.write("gauge.c", "#include \"gauge.h\"\n#include \"level.h\"\nint gauge(void) { return LEVEL; }\n");
  expect_move_keeps_build(tree, "gauge.c -> lib/gauge.c\n", std::string("sh configure && ") + kRun);
}

// What was built before lies about, and no ignore file says so.
TEST(MakeObjects, objects_left_over_do_not_hide_that_their_source_went) {
  Workspace tree(station("OBJS = main.o gauge.o\nstation: $(OBJS)\n\t$(CC) -o $@ $^\n"));
  tree.shell("make -s");
  Outcome moved = tree.run({"move", "gauge.c", "level.c"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(tree.read("Makefile").find("OBJS = main.o level.o"), std::string::npos) << moved.told;
  EXPECT_EQ(tree.shell("rm -f *.o station && make -s && ./station").status, 0);
}

TEST(MakeObjects, headers_installed_side_by_side_still_find_each_other_there) {
  Workspace tree({{"Makefile",
                   "CFLAGS = -I.\nstation: main.o\n\t$(CC) -o $@ main.o\ninstall:\n\tinstall -d "
                   "$(DESTDIR)/include/tide\n"
                   "\tinstall -m 644 tide.h level.h $(DESTDIR)/include/tide\n"},
                  {"tide.h", "#include \"level.h\"\n"},
                  {"level.h", "#define LEVEL 0\n"},
                  {"main.c", "#include \"tide.h\"\nint main(void) { return LEVEL; }\n"}});
  const char* const user =
      "make -s && ./station && make -s install DESTDIR=$PWD/image && echo '#include <tide/tide.h>' > user.c "
      "&& "
      "cc -fsyntax-only -Iimage/include user.c";
  expect_move_keeps_build(tree, "level.h -> util/level.h\n", user);
}

TEST(MakeObjects, variables_of_one_target_follow_it) {
  Workspace tree(station("gauge.o: CFLAGS += -DLEVEL=1\nstation: main.o gauge.o\n\t$(CC) -o $@ $^\n"));
  tree.write("gauge.c", "#include \"gauge.h\"\nint gauge(void) { return LEVEL; }\n");
  expect_move_says(tree, "gauge.c -> level.c\n", {"level.o: CFLAGS += -DLEVEL=1"}, kRun);
}

// The makefile compares texts with the name, which nothing can respell.
TEST(MakeObjects, options_that_hang_on_a_name_hold_it_back) {
  Workspace tree(
      station("station: main.o gauge.o\n\t$(CC) -o $@ $^\n%.o: %.c\n"
              "\t$(CC) $(if $(findstring gauge,$<),-DLEVEL=1) -c -o $@ $<\n"));
  tree.write("gauge.c", "#include \"gauge.h\"\nint gauge(void) { return LEVEL; }\n");
  expect_refusal(tree, "gauge.c -> level.c\n", {"gauge.c", "-DLEVEL", "tells by the name"});
  expect_move_keeps_build(tree, "gauge.c -> lib/gauge.c\n", kRun);
}

}  // namespace
}  // namespace yc::test
