// Real editors and a scripted client, each with the built program as its server (tests/editors).
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const std::string kEditors = std::string(SOURCES) + "/tests/editors/";

// With a second include that leads nowhere, for what is found by itself.
const Files kStation = {
    {"Makefile",
     "station: main.o level.o\n\tcc -o $@ main.o level.o\nmain.o: main.c level.h\nlevel.o: level.c "
     "level.h\n"},
    {"main.c", "#include \"level.h\"\n#include \"lib/level.h\"\nint main(void) { return level(); }\n"},
    {"level.c", "#include \"level.h\"\nint level(void) { return 0; }\n"},
    {"level.h", "int level(void);\n"},
    {"parts/ebb.c", "int ebb;\n"},
    {"parts/flood.c", "int flood;\n"},
    {"list.mk", "SRC = $(shell ./list)\nall:\n\tcc -c parts/$(SRC).c\n"}};

Files builds() {
  Files out = kStation;
  out[1].second = "#include \"level.h\"\nint main(void) { return level(); }\n";
  return out;
}

const std::string kBuild = "make -s clean 2>/dev/null; rm -f *.o && make -s && ./station";

// A tree that version control knows, as editors want it.
void commit(const Workspace& tree) {
  Outcome done =
      tree.shell("git init -q . && git add -A && git -c user.name=x -c user.email=x@x commit -qm x");
  ASSERT_EQ(done.status, 0) << done.told;
}

Outcome emacs(const Workspace& tree, const std::string& how, const std::string& from, const std::string& to) {
  return tree.shell("HOME=$PWD/../home-of-$$; export HOME; mkdir -p $HOME; timeout 120 emacs -q --batch -l " +
                    kEditors + "emacs.el '" + YELLOW_COMPASS_PROGRAM + "' \"$PWD\" " + how + " " + from +
                    " " + to + " 2>&1; status=$?; rm -rf $HOME; exit $status");
}

void expect_built(const Workspace& tree, const Outcome& said, const std::string& place = "core/level.h") {
  EXPECT_FALSE(tree.exists("level.h")) << said.told;
  EXPECT_TRUE(tree.exists(place)) << said.told;
  EXPECT_THAT(tree.read("main.c"), testing::StartsWith("#include \"" + place + "\"\n")) << said.told;
  Outcome built = tree.shell(kBuild);
  EXPECT_EQ(built.status, 0) << said.told << built.told;
}

TEST(Editors, emacs_asks_before_its_directory_editor_renames) {
  Workspace tree(builds());
  commit(tree);
  Outcome said = emacs(tree, "asked", "level.h", "core/level.h");
  expect_built(tree, said);
  Outcome undone = tree.run({"undo"});
  EXPECT_EQ(undone.status, 0) << said.told << undone.told;
  EXPECT_EQ(tree.read("main.c"), builds()[1].second);
}

TEST(Editors, emacs_asks_before_the_file_of_a_buffer_is_renamed) {
  Workspace tree(builds());
  commit(tree);
  expect_built(tree, emacs(tree, "buffer", "level.h", "core/level.h"));
}

TEST(Editors, emacs_does_not_rename_what_is_refused) {
  Workspace tree(builds());
  commit(tree);
  Outcome said = emacs(tree, "asked", "parts/ebb.c", "other/ebb.c");
  EXPECT_TRUE(tree.exists("parts/ebb.c")) << said.told;
  EXPECT_FALSE(tree.exists("other/ebb.c")) << said.told;
}

TEST(Editors, what_emacs_renames_without_asking_is_mended) {
  Workspace tree(builds());
  commit(tree);
  // It does not tell of that, or not always: the server sees it.
  expect_built(tree, emacs(tree, "unasked", "level.h", "parts/level.h"), "parts/level.h");
}

TEST(Editors, neovim_has_links_references_findings_and_renames) {
  Workspace tree(kStation);
  commit(tree);
  Outcome said =
      tree.shell("PROGRAM='" + std::string(YELLOW_COMPASS_PROGRAM) +
                 "' FROM=level.h TO=core/level.h timeout 120 nvim --headless -u NONE -c 'luafile " +
                 kEditors + "neovim.lua' 2>&1");
  for (const char* line : {"finding 1 dangling", "link 0 level.h", "user level.c 0", "user main.c 0",
                           "user Makefile 2", "renamed"})
    EXPECT_THAT(said.out, testing::HasSubstr(line)) << said.told;
  EXPECT_EQ(tree.read("level.c"), "#include \"core/level.h\"\nint level(void) { return 0; }\n") << said.told;
  tree.write("main.c", "#include \"core/level.h\"\nint main(void) { return level(); }\n");
  Outcome built = tree.shell(kBuild);
  EXPECT_EQ(built.status, 0) << said.told << built.told;
}

TEST(Editors, every_message_has_the_type_that_the_protocol_gives_it) {
  Workspace tree(kStation);
  Outcome judged = tree.shell("python3 " + kEditors + "conform.py '" + YELLOW_COMPASS_PROGRAM +
                              "' \"$PWD\" '" + WEB_TOOLS + "'");
  EXPECT_EQ(judged.status, 0) << judged.told;
  EXPECT_THAT(judged.out, testing::HasSubstr("all kinds were seen"));
}

TEST(Editors, a_storm_of_messages_is_survived) {
  Workspace tree(kStation);
  Outcome done = tree.shell("cp -r " + std::string(SOURCES) + "/demo/saltmarsh demo && python3 " + kEditors +
                            "storm.py '" + YELLOW_COMPASS_PROGRAM + "' demo 7 10000");
  EXPECT_EQ(done.status, 0) << done.told;
}

}  // namespace
}  // namespace yc::test
