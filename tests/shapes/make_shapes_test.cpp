// Shapes of make projects as they are met in the wild: each is moved, built with make, and taken back.
#include <gtest/gtest.h>

#include "support/station.h"

namespace yc::test {
namespace {

TEST(MakeShapes, flat_program_goes_to_src_and_include) {
  Workspace tree(
      station("OBJS = main.o gauge.o\nstation: $(OBJS)\n\t$(CC) -o $@ $(OBJS)\nmain.o: main.c "
              "gauge.h\ngauge.o: gauge.c gauge.h\n"));
  expect_move_keeps_build(tree, "main.c -> src/main.c\ngauge.c -> src/gauge.c\ngauge.h -> include/gauge.h\n",
                          kRun);
}

TEST(MakeShapes, objects_that_name_their_sources_follow_one_source) {
  Workspace tree(station("OBJS = main.o gauge.o\nstation: $(OBJS)\n\t$(CC) -o $@ $^\n"));
  Outcome moved = expect_move_keeps_build(tree, "gauge.c -> lib/gauge.c\n", kRun);
  EXPECT_NE(moved.out.find("OBJS = main.o lib/gauge.o"), std::string::npos) << moved.told;
}

TEST(MakeShapes, pattern_of_sources_gets_a_lost_file_back) {
  Workspace tree(station(
      "SRC := $(wildcard src/*.c)\nOBJ := $(SRC:.c=.o)\nstation: $(OBJ)\n\t$(CC) -o $@ $^\n", "src/"));
  Outcome moved = expect_move_keeps_build(tree, "src/gauge.c -> src/net/gauge.c\n", kRun);
  EXPECT_NE(moved.out.find("$(wildcard src/*.c src/net/*.c)"), std::string::npos) << moved.told;
}

TEST(MakeShapes, build_folder_of_objects_is_made_for_a_new_subfolder) {
  Workspace tree(
      station("SRC := $(wildcard src/*.c)\nOBJ := $(patsubst src/%.c,build/%.o,$(SRC))\nstation: "
              "$(OBJ)\n\t$(CC) -o $@ $^\n"
              "build/%.o: src/%.c | build\n\t$(CC) -c -o $@ $<\nbuild:\n\tmkdir -p build\n",
              "src/"));
  expect_move_keeps_build(tree, "src/gauge.c -> src/net/gauge.c\n", kRun);
}

TEST(MakeShapes, source_outside_of_a_pattern_rule_gets_a_rule_of_its_own) {
  Workspace tree(
      station("SRC := $(wildcard src/*.c)\nOBJ := $(patsubst src/%.c,build/%.o,$(SRC))\nstation: "
              "$(OBJ)\n\t$(CC) -o $@ $^\n"
              "build/%.o: src/%.c\n\t@mkdir -p $(@D)\n\t$(CC) -c -o $@ $<\n",
              "src/"));
  expect_move_keeps_build(tree, "src/gauge.c -> lib/gauge.c\n", kRun);
}

TEST(MakeShapes, folder_in_a_variable_is_edited_once) {
  Workspace tree(
      station("S = src\nOBJ = $(S)/main.o $(S)/gauge.o\nstation: $(OBJ)\n\t$(CC) -o $@ $^\n$(S)/main.o: "
              "$(S)/gauge.h\n",
              "src/"));
  Outcome moved = expect_move_keeps_build(tree, "src/ -> firmware/core/\n", kRun);
  EXPECT_NE(moved.out.find("+ S = firmware/core"), std::string::npos) << moved.told;
  EXPECT_NE(moved.out.find("1 edit in 1 file"), std::string::npos) << moved.told;
}

TEST(MakeShapes, one_file_leaves_the_folder_of_a_variable) {
  Workspace tree(
      station("S = src\nOBJ = $(S)/main.o $(S)/gauge.o\nstation: $(OBJ)\n\t$(CC) -o $@ $^\n", "src/"));
  expect_move_keeps_build(tree, "src/gauge.c -> lib/gauge.c\n", kRun);
}

TEST(MakeShapes, include_folder_in_the_flags_follows_its_headers) {
  Workspace tree(Files{{"Makefile", "CFLAGS = -Wall -Iinclude\nstation: main.o gauge.o\n\t$(CC) -o $@ $^\n"},
                       {"main.c", kMain},
                       {"gauge.c", kGauge},
                       {"include/gauge.h", kGaugeH}});
  Outcome moved = expect_move_keeps_build(tree, "include/ -> api/public/\n", kRun);
  EXPECT_NE(moved.out.find("-Iapi/public"), std::string::npos) << moved.told;
  EXPECT_NE(moved.out.find("1 edit in 1 file"), std::string::npos) << moved.told;
}

TEST(MakeShapes, child_make_gets_its_include_folder_from_the_parent) {
  Workspace tree(Files{{"Makefile", "all:\n\t$(MAKE) -C src CFLAGS=\"-I../include\"\n\t./src/station\n"},
                       {"src/Makefile", "station: main.o gauge.o\n\t$(CC) -o $@ $^\n"},
                       {"src/main.c", kMain},
                       {"src/gauge.c", kGauge},
                       {"include/gauge.h", kGaugeH}});
  Outcome moved = expect_move_keeps_build(tree, "include/ -> api/include/\n", "make -s --no-print-directory");
  EXPECT_NE(moved.out.find("-I../api/include"), std::string::npos) << moved.told;
}

TEST(MakeShapes, exported_flags_reach_the_child_make) {
  Workspace tree(
      Files{{"Makefile", "export CFLAGS := -I../include\nall:\n\tcd src && $(MAKE)\n\t./src/station\n"},
            {"src/Makefile", "station: main.o gauge.o\n\t$(CC) -o $@ $^\n"},
            {"src/main.c", kMain},
            {"src/gauge.c", kGauge},
            {"include/gauge.h", kGaugeH}});
  expect_move_keeps_build(tree, "include/gauge.h -> include/net/gauge.h\n", "make -s --no-print-directory");
}

TEST(MakeShapes, search_path_with_base_names_gets_the_new_folder) {
  Workspace tree(Files{{"Makefile",
                        "VPATH = src lib\nSRC = $(wildcard src/*.c lib/*.c)\nOBJ = $(notdir "
                        "$(SRC:.c=.o))\nCFLAGS = -Isrc\nstation: $(OBJ)\n\t$(CC) -o $@ $^\n"},
                       {"src/main.c", kMain},
                       {"src/gauge.h", kGaugeH},
                       {"lib/gauge.c", kGauge}});
  expect_move_keeps_build(tree, "lib/gauge.c -> drivers/gauge.c\n", kRun);
}

TEST(MakeShapes, rules_made_by_eval_follow_their_list) {
  Workspace tree(station(
      "NAMES = main gauge\ndefine rule\nout/$(1).o: $(1).c gauge.h\n\t@mkdir -p out\n\t$$(CC) -c -o $$@ "
      "$$<\nendef\n"
      "station: $(NAMES:%=out/%.o)\n\t$(CC) -o $@ $^\n$(foreach n,$(NAMES),$(eval $(call rule,$(n))))\n"));
  expect_move_keeps_build(tree, "gauge.h -> include/gauge.h\n", kRun);
}

TEST(MakeShapes, source_that_includes_a_source) {
  Workspace tree(Files{{"Makefile", "station: one.o\n\t$(CC) -o $@ $^\n"},
                       {"one.c", "#include \"core/gauge.c\"\n#include \"core/main.c\"\n"},
                       {"core/main.c", kMain},
                       {"core/gauge.c", kGauge},
                       {"core/gauge.h", kGaugeH}});
  expect_move_keeps_build(tree, "core/gauge.c -> parts/gauge.c\n", kRun);
}

TEST(MakeShapes, test_for_a_header_would_fail_without_a_word) {
  Workspace tree(Files{{"Makefile", "station: main.o\n\t$(CC) -o $@ $^\n"},
                       {"options.h", "#define LEVEL 7\n"},
                       {"main.c",
                        "#include <stdio.h>\n#if __has_include(\"options.h\")\n#include "
                        "\"options.h\"\n#else\n#define LEVEL 0\n#endif\n"
                        "int main(void) { printf(\"%d\\n\", LEVEL); return 0; }\n"}});
  Outcome moved = expect_move_keeps_build(tree, "options.h -> config/options.h\n", kRun);
  EXPECT_NE(moved.out.find("__has_include(\"config/options.h\")"), std::string::npos) << moved.told;
}

TEST(MakeShapes, own_headers_in_angle_brackets) {
  Workspace tree(Files{{"Makefile", "CFLAGS = -Iinclude\nstation: main.o\n\t$(CC) -o $@ $^\n"},
                       {"include/tide/level.h", "#define LEVEL 3\n"},
                       {"main.c",
                        "#include <stdio.h>\n#include <tide/level.h>\nint main(void) { printf(\"%d\\n\", "
                        "LEVEL); return 0; }\n"}});
  expect_move_keeps_build(tree, "include/tide/level.h -> include/water/level.h\n", kRun);
  expect_move_keeps_build(tree, "include/tide/level.h -> parts/level.h\n", kRun);
}

TEST(MakeShapes, every_include_relative_to_one_root) {
  Workspace tree(Files{{"Makefile", "CFLAGS = -I.\nstation: src/main.o src/net/gauge.o\n\t$(CC) -o $@ $^\n"},
                       {"src/main.c",
                        "#include <stdio.h>\n#include \"src/net/gauge.h\"\nint main(void) { "
                        "printf(\"%d\\n\", gauge()); return 0; }\n"},
                       {"src/net/gauge.c", "#include \"src/net/gauge.h\"\nint gauge(void) { return 1; }\n"},
                       {"src/net/gauge.h", kGaugeH}});
  Outcome moved = expect_move_keeps_build(tree, "src/net/ -> src/wire/\n", kRun);
  EXPECT_NE(moved.out.find("\"src/wire/gauge.h\""), std::string::npos) << moved.told;
}

TEST(MakeShapes, pattern_in_a_variable_and_a_file_taken_out_of_it) {
  Workspace tree(Files{{"Makefile",
                        "PATTERN = src/*.c\nSRC = $(filter-out src/old.c,$(wildcard $(PATTERN)))\nstation: "
                        "$(SRC:.c=.o)\n\t$(CC) -o $@ $^\n"},
                       {"src/main.c", kMain},
                       {"src/gauge.c", kGauge},
                       {"src/gauge.h", kGaugeH},
                       {"src/old.c", "this does not compile\n"}});
  expect_move_keeps_build(tree, "src/ -> firmware/\n", kRun);
  expect_move_keeps_build(tree, "src/old.c -> src/older.c\n", kRun);
  expect_move_keeps_build(tree, "src/gauge.c -> drivers/gauge.c\n", kRun);
}

TEST(MakeShapes, file_that_drifts_into_a_pattern_is_kept_out) {
  Workspace tree(Files{{"Makefile", "station: $(patsubst %.c,%.o,$(wildcard src/*.c))\n\t$(CC) -o $@ $^\n"},
                       {"src/main.c", kMain},
                       {"src/gauge.c", kGauge},
                       {"src/gauge.h", kGaugeH},
                       {"attic/broken.c", "this does not compile\n"}});
  expect_move_keeps_build(tree, "attic/broken.c -> src/broken.c\n", kRun);
}

TEST(MakeShapes, version_read_as_text_by_a_shell) {
  Workspace tree(Files{
      {"Makefile",
       "VERSION := $(shell sed -n 's/.*VERSION \\(.*\\)/\\1/p' gauge.h)\nall:\n\t@echo version $(VERSION)\n"},
      {"gauge.h", "#define VERSION 5\n"}});
  Outcome moved = expect_move_keeps_build(tree, "gauge.h -> include/gauge.h\n", "make -s");
  EXPECT_NE(moved.out.find("include/gauge.h)"), std::string::npos) << moved.told;
}

TEST(MakeShapes, files_listed_by_find) {
  Workspace tree(
      station("SRC := $(shell find src -name '*.c')\nstation: $(SRC:.c=.o)\n\t$(CC) -o $@ $^\n", "src/"));
  expect_move_keeps_build(tree, "src/ -> firmware/\n", kRun);
  expect_move_keeps_build(tree, "src/gauge.c -> drivers/gauge.c\n", kRun);
}

// Of names that "find" leaves out, in letters of any case.
TEST(MakeShapes, files_listed_by_find_but_for_some) {
  Files files = station(
      "SRC := $(shell find src -iname '*.C' -and -not -iname 'OLD.c' ! -name 'x*')\n"
      "station: $(SRC:.c=.o)\n\t$(CC) -o $@ $^\n",
      "src/");
  files.emplace_back("src/old.c", "#error not this one\n");
  files.emplace_back("src/xtra.c", "#error nor this one\n");
  Workspace tree(files);
  expect_move_keeps_build(tree, "src/ -> firmware/\n", kRun);
  expect_move_keeps_build(tree, "src/gauge.c -> src/drivers/gauge.c\n", kRun);
  expect_move_keeps_build(tree, "src/old.c -> attic/old.c\n", kRun);
  expect_move_says(tree, "src/old.c -> src/new.c\n", {"$(filter-out src/new.c,"}, kRun);
}

TEST(MakeShapes, both_sides_of_a_conditional_follow) {
  Workspace tree(Files{{"Makefile",
                        "ifeq ($(TARGET),board)\nSRC = board.c\nelse\nSRC = host.c\nendif\nstation: main.o "
                        "$(SRC:.c=.o)\n\t$(CC) -o $@ $^\n"},
                       {"main.c", kMain},
                       {"gauge.h", kGaugeH},
                       {"board.c", kGauge},
                       {"host.c", kGauge}});
  expect_move_keeps_build(tree, "board.c -> ports/board.c\nhost.c -> ports/host.c\n",
                          "make -s && ./station && make -s clean TARGET=board 2>/dev/null; rm -f *.o "
                          "ports/*.o station; make -s TARGET=board && ./station");
}

TEST(MakeShapes, linker_script_forced_include_and_library_folder) {
  Workspace tree(
      Files{{"Makefile",
             "CFLAGS = -include forced.h\nstation: main.o lib/libgauge.a\n\t$(CC) -o $@ main.o -Llib -lgauge "
             "-Wl,--version-script,export.map\n"
             "lib/libgauge.a: lib/gauge.o\n\t$(AR) rcs $@ $^\n"},
            {"forced.h", "#define FORCED 1\n"},
            {"export.map", "{ local: *; };\n"},
            {"main.c",
             "#ifndef FORCED\n#error no\n#endif\nint gauge(void);\nint main(void) { return gauge() - 1; }\n"},
            {"lib/gauge.c", "int gauge(void) { return FORCED; }\n"}});
  expect_move_keeps_build(tree, "forced.h -> config/forced.h\nexport.map -> config/export.map\n", kRun);
  expect_move_keeps_build(tree, "lib/ -> libraries/gauge/\n", kRun);
}

TEST(MakeShapes, fragment_that_is_included) {
  Workspace tree(Files{{"Makefile", "include config.mk\nstation: $(OBJ)\n\t$(CC) -o $@ $^\n"},
                       {"config.mk", "OBJ = main.o gauge.o\n"},
                       {"main.c", kMain},
                       {"gauge.c", kGauge},
                       {"gauge.h", kGaugeH}});
  expect_move_keeps_build(tree, "config.mk -> build/config.mk\nmain.c -> src/main.c\n", kRun);
}

TEST(MakeShapes, makefile_itself_moves) {
  Workspace tree(station("station: main.o gauge.o\n\t$(CC) -o $@ $^\n", "fw/"));
  tree.write("Makefile", "all:\n\t$(MAKE) -C fw\n\t./fw/station\n");
  tree.write("fw/Makefile", "station: main.o gauge.o\n\t$(CC) -o $@ $^\n");
  expect_move_keeps_build(tree, "fw/ -> firmware/gauge/\n", "make -s --no-print-directory");
}

TEST(MakeShapes, swap_of_two_sources) {
  Workspace tree(Files{{"Makefile", "station: a.o b.o\n\t$(CC) -o $@ $^\n"},
                       {"a.c", "#include \"b.h\"\nint main(void) { return b(); }\n"},
                       {"b.c", "int b(void) { return 0; }\n"},
                       {"b.h", "int b(void);\n"}});
  expect_move_keeps_build(tree, "a.c -> b.c\nb.c -> a.c\n", kRun);
}

TEST(MakeShapes, computed_name_stands_in_the_way_unless_its_folder_moves) {
  Workspace tree(
      Files{{"Makefile", "PORT ?= $(shell uname)\nall:\n\tcp ports/$(PORT).txt out.txt\n\tcat out.txt\n"},
            {"ports/Linux.txt", "tide\n"}});
  expect_refusal(tree, "ports/Linux.txt -> ports/linux.txt\n",
                 {"Makefile:3", "ports/Linux.txt", "--accept-unseen"});
  expect_move_keeps_build(tree, "ports/ -> platforms/\n", "make -s");
}

TEST(MakeShapes, static_pattern_rule) {
  Workspace tree(
      station("OBJ = out/main.o out/gauge.o\nstation: $(OBJ)\n\t$(CC) -o $@ $^\n$(OBJ): out/%.o: src/%.c "
              "src/gauge.h\n\t@mkdir -p out\n\t$(CC) -c -o $@ $<\n",
              "src/"));
  expect_move_keeps_build(tree, "src/ -> firmware/\n", kRun);
}

TEST(MakeShapes, header_named_by_a_macro_of_the_build_script) {
  const char* gauge = "#include \"gauge.h\"\n#include STATION_FILE\nint gauge(void) { return LEVEL; }\n";
  Workspace tree(Files{{"Makefile",
                        "CPPFLAGS = -DSTATION_FILE=\\\"station.h\\\" -DTITLE=\\\"a/b\\\"\nstation: main.o "
                        "gauge.o\n\t$(CC) -o $@ $^\n"},
                       {"main.c", kMain},
                       {"gauge.c", gauge},
                       {"gauge.h", kGaugeH},
                       {"station.h", "#define LEVEL 5\n"}});
  Outcome header = expect_move_keeps_build(tree, "station.h -> config/station.h\n", kRun);
  EXPECT_NE(header.out.find("\\\"config/station.h\\\""), std::string::npos) << header.told;
  expect_move_keeps_build(tree, "gauge.c -> src/gauge.c\nstation.h -> src/station.h\n", kRun);
  expect_move_keeps_build(tree, "gauge.c -> src/gauge.c\nstation.h -> config/station.h\n", kRun);
}

TEST(MakeShapes, data_opened_by_a_path_in_a_string) {
  const char* reader =
      "#include <stdio.h>\nint main(void) { FILE* f = fopen(\"data/tide.txt\", \"r\"); return f ? "
      "puts(\"found\") < 0 : 1; }\n";
  Workspace tree(Files{{"Makefile", "station: src/main.o\n\t$(CC) -o $@ $^\n"},
                       {"src/main.c", reader},
                       {"data/tide.txt", "1\n"}});
  Outcome moved = expect_move_keeps_build(tree, "data/ -> tables/tides/\n", kRun);
  EXPECT_NE(moved.out.find("\"tables/tides/tide.txt\""), std::string::npos) << moved.told;
  EXPECT_NE(moved.out.find("(likely)"), std::string::npos) << moved.told;
}

TEST(MakeShapes, path_in_a_string_keeps_the_folder_it_is_opened_from) {
  const char* reader =
      "#include <stdio.h>\nint main(void) { FILE* f = fopen(\"tests/data/x.txt\", \"r\"); return f ? "
      "puts(\"found\") < 0 : 1; }\n";
  Workspace tree(Files{{"Makefile", "station: tests/main.o\n\t$(CC) -o $@ $^\n"},
                       {"tests/main.c", reader},
                       {"tests/data/x.txt", "1\n"}});
  // From nested/tests/ upwards, nested/ would hold the old text's target too, but the program is not started
  // there.
  Outcome moved = expect_move_keeps_build(tree, "tests/ -> nested/tests/\n", kRun);
  EXPECT_NE(moved.out.find("\"nested/tests/data/x.txt\""), std::string::npos) << moved.told;
}

TEST(MakeShapes, object_named_by_the_compiler_after_its_source) {
  Workspace tree(
      station("station: main.o gauge.o\n\t$(CC) -o $@ $^\ngauge.o:\n\t$(CC) $(CFLAGS) -c gauge.c\n"));
  Outcome renamed = expect_move_keeps_build(tree, "gauge.c -> level.c\n", kRun);
  EXPECT_NE(renamed.out.find("-c level.c -o gauge.o"), std::string::npos) << renamed.told;
  expect_move_keeps_build(tree, "gauge.c -> lib/gauge.c\n", kRun);
}

TEST(MakeShapes, file_written_by_a_path_in_a_string) {
  const char* writer =
      "#include <stdio.h>\nint main(void) { FILE* f = fopen(\"data/out/level.txt\", \"w\"); return f ? "
      "puts(\"written\") < 0 : 1; }\n";
  Workspace tree(
      Files{{"Makefile", "station: main.o\n\t$(CC) -o $@ $^\n"}, {"main.c", writer}, {"data/out/keep", ""}});
  expect_move_keeps_build(tree, "data/ -> tables/\n", kRun);
}

TEST(MakeShapes, folder_above_the_root_of_a_subfolder) {
  Workspace tree(Files{{"Makefile", "all:\n\t$(MAKE) -C src\n\t./src/station\n"},
                       {"src/Makefile", "CFLAGS = -I..\nstation: main.o\n\t$(CC) -o $@ $^\n"},
                       {"src/main.c", "#include <gauge.h>\nint main(void) { return GAUGE; }\n"},
                       {"gauge.h", "#define GAUGE 0\n"}});
  Outcome moved = expect_move_keeps_build(
      tree, "src/ -> firmware/src/\n", "make -s --no-print-directory && find . -name station -exec {} \\;");
  EXPECT_NE(moved.out.find("-I../.."), std::string::npos) << moved.told;
}

TEST(MakeShapes, product_in_a_folder_that_moves) {
  Workspace tree(Files{{"Makefile",
                        "station: main.o lib/libgauge.a\n\t$(CC) -o $@ main.o -Llib -lgauge\nlib/libgauge.a: "
                        "lib/gauge.c\n\t$(MAKE) -C lib libgauge.a\n"},
                       {"lib/Makefile", "libgauge.a: gauge.o\n\t$(AR) rcs $@ $^\n"},
                       {"main.c", kMain},
                       {"gauge.h", kGaugeH},
                       {"lib/gauge.c", "int gauge(void) { return 1; }\n"}});
  Outcome moved =
      expect_move_keeps_build(tree, "lib/ -> libs/gauge/\n", "make -s --no-print-directory && ./station");
  EXPECT_NE(moved.out.find("libs/gauge/libgauge.a: libs/gauge/gauge.c"), std::string::npos) << moved.told;
}

TEST(MakeShapes, a_path_opened_from_the_start_folder_stays_when_its_source_leaves) {
  Workspace tree(Files{{"examples/Makefile", "run: show\n\t./show\nshow: show.c\n\t$(CC) -o show show.c\n"},
                       {"examples/show.c",
                        "#include <stdio.h>\nint main(void) { FILE *f = fopen(\"./levels.txt\", \"r\"); "
                        "return f ? getc(f) - '7' : 1; }\n"},
                       {"examples/levels.txt", "7\n"}});
  Outcome moved = expect_move_keeps_build(tree, "examples/show.c -> src/show.c\n", "make -s -C examples run");
  EXPECT_EQ(moved.out.find("levels.txt\""), std::string::npos) << moved.told;
}

// A variable that a makefile exports matters to one that it starts only if that one asks for it.
TEST(MakeShapes, an_exported_folder_that_nobody_asks_for) {
  Workspace tree(Files{{"Makefile", "all:\n\t$(MAKE) -s -C tests\n\t$(MAKE) -s -C lib\n"},
                       {"parts.inc", "X = 1\n"},
                       {"tests/Makefile",
                        "export RUN_PATH += ../lib\ninclude ../parts.inc\nall: ;\n\t$(MAKE) -s -C ../lib "
                        "CFLAGS=\"$(CFLAGS)\"\n"},
                       {"lib/Makefile", "include ../parts.inc\nall: gauge.o\n"},
                       {"lib/gauge.c", "int gauge(void) { return 1; }\n"}});
  expect_move_keeps_build(tree, "lib/ -> nested/lib/\n", "make -s --no-print-directory");
}

// The linker is given what a compiler's wrapper leaves beside the objects that rules make.
TEST(MakeShapes, objects_of_another_ending_go_along_with_their_list) {
  Workspace tree(station(
      "OBJS = main.o parts/gauge.o\nLOBJS = $(OBJS:.o=.lo)\nstation: $(OBJS)\n\t$(CC) -o $@ $(LOBJS)\n"
      ".c.o:\n\t$(CC) -I. -c -o $@ $< && cp $@ $(@:.o=.lo)\n"));
  tree.shell("mkdir parts other && mv gauge.c parts && echo > parts/notes && echo > other/notes");
  Outcome moved = expect_move_keeps_build(tree, "parts/gauge.c -> other/gauge.c\n", kRun);
  EXPECT_NE(moved.out.find("OBJS = main.o other/gauge.o"), std::string::npos) << moved.told;
}

// A variable that only another side of a conditional sets is empty, and not unknown.
TEST(MakeShapes, an_ending_that_one_system_has) {
  Workspace tree(
      station("ifeq ($(OS),Windows_NT)\nDOS = yes\nelse\nEXT =\nendif\nifeq ($(DOS),yes)\nEXT = .exe\nendif\n"
              "station: main.o gauge.o\n\t$(CC) -o $@$(EXT) $^\ncopy: station\n\tcp gauge$(EXT) /tmp\n"));
  expect_move_keeps_build(tree, "gauge.h -> include/gauge.h\n", kRun);
}

// A list that a pattern fills ends up in a rule both by its prerequisites and in its recipe: the file that
// left is named once, or the linker is given its object twice.
TEST(MakeShapes, a_file_that_left_a_pattern_is_linked_once) {
  Workspace tree(
      Files{{"Makefile",
             "LIB = $(wildcard lib/*.c)\nSRC = $(sort $(LIB) $(wildcard *.c))\nOBJ = $(SRC:.c=.o)\n"
             "station: $(OBJ)\n\t$(CC) $(OBJ) -o $@\nother: $(OBJ)\n\t$(CC) $(OBJ) -o $@\n"},
            {"main.c", kMain},
            {"gauge.h", kGaugeH},
            {"lib/gauge.c", "int gauge(void) { return 1; }\n"},
            {"lib/pins.c", "int pins(void) { return 2; }\n"}});
  expect_move_keeps_build(tree, "lib/gauge.c -> core/gauge.c\nmain.c -> core/main.c\n",
                          "make -s station other && ./station");
}

// What is found by the search path needs no other spelling when a folder of the path moves whole.
TEST(MakeShapes, search_path_moves_whole_and_what_it_finds_is_left_alone) {
  Workspace tree(Files{
      {"parts.mk", "PARTS = gauge.h pins.h\n"},
      {"doc/Makefile", "VPATH = ../lib\ninclude ../parts.mk\nall: notes\nnotes: $(PARTS)\n\tcat $^ > $@\n"},
      {"lib/gauge.h", "int gauge(void);\n"},
      {"lib/pins.h", "int pins(void);\n"}});
  Outcome moved = expect_move_keeps_build(tree, "lib/ -> nested/lib/\n", "make -s -C doc && cat doc/notes");
  EXPECT_NE(moved.out.find("VPATH = ../nested/lib"), std::string::npos) << moved.told;
  EXPECT_EQ(moved.out.find("parts.mk\n"), std::string::npos) << moved.told;
}

// A makefile in a folder that the top one calls, which calls itself again as well.
Files station_below() {
  return {{"Makefile", "station:\n\tcd src && $(MAKE) all\n\tcp src/station station\n"},
          {"src/Makefile",
           "all:\n\t@$(MAKE) station\nstation: main.o gauge.o\n\t$(CC) -o $@ main.o gauge.o\n"
           "main.o: main.c gauge.h\ngauge.o: gauge.c gauge.h\n"},
          {"src/main.c", kMain},
          {"src/gauge.c", kGauge},
          {"src/gauge.h", kGaugeH}};
}

TEST(MakeShapes, a_makefile_that_a_call_looks_for_goes_without_its_folder) {
  Workspace tree(station_below());
  Outcome moved = expect_move_says(tree, "src/Makefile -> scripts/Makefile\n",
                                   {"cd src && $(MAKE) -f ../scripts/Makefile all",
                                    "@$(MAKE) -f ../scripts/Makefile station", "2 edits in 2 files"},
                                   kRun);
}

TEST(MakeShapes, a_makefile_that_a_call_looks_for_gets_another_name) {
  expect_move_says(Workspace(station_below()), "src/Makefile -> src/station.mk\n",
                   {"cd src && $(MAKE) -f station.mk all", "@$(MAKE) -f station.mk station"}, kRun);
}

TEST(MakeShapes, a_makefile_and_what_it_names_part_from_the_folder_together) {
  expect_move_keeps_build(Workspace(station_below()),
                          "src/Makefile -> scripts/Makefile\nsrc/gauge.c -> water/gauge.c\n", kRun);
}

TEST(MakeShapes, objects_of_a_static_pattern_are_named_anew_where_they_are_used) {
  Workspace tree(
      station("station: main.o gauge.o\n\t$(CC) -o station main.o gauge.o\n"
              "main.o gauge.o: %.o: %.c\n\t$(CC) -c -o $@ $<\n"));
  expect_move_says(
      tree, "gauge.c -> lib/gauge.c\n",
      {"station: main.o lib/gauge.o", "$(CC) -o station main.o lib/gauge.o", "main.o lib/gauge.o: %.o: %.c"},
      kRun);
}

TEST(MakeShapes, several_products_of_a_pattern_rule_get_rules_of_their_own) {
  Workspace tree(
      Files{{"Makefile",
             "station: main.o gauge.o\n\t$(CC) -o $@ $^\n%.o: src/%.c src/gauge.h\n\t$(CC) -c -o $@ $<\n"},
            {"src/main.c", kMain},
            {"src/gauge.c", kGauge},
            {"src/gauge.h", kGaugeH}});
  expect_move_says(tree, "src/gauge.c -> lib/gauge.c\nsrc/main.c -> app/main.c\n",
                   {"gauge.o: lib/gauge.c src/gauge.h", "main.o: app/main.c src/gauge.h"}, kRun);
}

// One list, used in two makefiles: what leaves it is named behind each use.
TEST(MakeShapes, several_files_leave_a_list_that_two_folders_share) {
  Workspace tree(
      Files{{"Makefile",
             "include lib/list.mk\nall: lib.txt\n\t$(MAKE) -s -C lib\nlib.txt: $(addprefix lib/,$(PARTS))\n"
             "\tcat $^ > $@\n"},
            {"lib/list.mk", "PARTS = \\\n  a.txt \\\n  b.txt \\\n  c.txt\n"},
            {"lib/Makefile", "include list.mk\nall.txt: $(PARTS)\n\tcat $(PARTS) > $@\n"},
            {"lib/a.txt", "a\n"},
            {"lib/b.txt", "b\n"},
            {"lib/c.txt", "c\n"}});
  expect_move_keeps_build(tree, "lib/a.txt -> core/a.txt\nlib/b.txt -> core/b.txt\n",
                          "make -s && sort lib.txt lib/all.txt");
}

// What the targets are called only the environment says, and where a distribution is put together.
TEST(MakeShapes, what_a_rule_makes_and_what_is_copied_out_is_no_source) {
  Workspace tree({{"Makefile",
                   "all: lib/$(LEVELS) station\nlib/$(LEVELS): ; @touch $@\n"
                   "station: lib/gauge.c\n\t$(CC) -o $@ lib/gauge.c\n"
                   "dist: ; for file in lib/gauge.c; do cp -p $$file $(distdir)/$$file; done\n"},
                  {"lib/gauge.c", "int main(void) { return 0; }\n"}});
  expect_move_keeps_build(
      tree, "lib/gauge.c -> src/gauge.c\n",
      "make -s LEVELS=levels && ./station && mkdir -p /tmp/yc.dist/lib /tmp/yc.dist/src && "
      "make -s dist distdir=/tmp/yc.dist; status=$?; rm -r /tmp/yc.dist; exit $status");
}

}  // namespace
}  // namespace yc::test
