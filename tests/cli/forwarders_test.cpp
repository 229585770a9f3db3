// move --forward, check, and restyle --drop-forwarders, by the built program.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const std::string kBuild = "make -s -B && ./station";

Files station() {
  return {{"Makefile", "station: src/main.c src/tide.c\n\t$(CC) -Isrc -o $@ $^\n"},
          {"src/main.c", "#include \"tide.h\"\nint main(void) { return tide(); }\n"},
          {"src/tide.c", "#include \"tide.h\"\nint tide(void) { return 0; }\n"},
          {"src/tide.h", "int tide(void);\n"}};
}

TEST(Forwarders, one_is_left_for_users_outside_and_ours_go_to_the_new_place) {
  Workspace tree(station());
  auto before = tree.contents();
  Outcome moved = tree.run({"move", "--forward", "src/tide.h", "include/"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(tree.read("src/tide.h").find("#include \"../include/tide.h\"\n"), std::string::npos);
  EXPECT_EQ(tree.read("src/main.c").substr(0, 29), "#include \"../include/tide.h\"\n");
  tree.write("user.c", "#include \"src/tide.h\"\nint x(void) { return tide(); }\n");
  EXPECT_EQ(tree.shell(kBuild + " && cc -c -o user.o user.c && rm user.o user.c station").status, 0);
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  EXPECT_EQ(tree.contents(), before);
}

TEST(Forwarders, check_tells_who_uses_them_and_without_users_it_is_no_fault) {
  Workspace tree(station());
  tree.run({"move", "--forward", "src/tide.h", "include/"});
  Outcome idle = tree.run({"check"});
  EXPECT_EQ(idle.status, 0) << idle.told;
  EXPECT_EQ(idle.out,
            "src/tide.h: forwards to include/tide.h; nothing in this tree uses it [forwarder]\n1 note\n");
  tree.write("src/tide.c", "#include \"tide.h\"\nint tide(void) { return 0; }\n");
  Outcome used = tree.run({"check"});
  EXPECT_EQ(used.status, 1) << used.told;
  EXPECT_NE(used.out.find("still used from src/tide.c"), std::string::npos) << used.told;
}

TEST(Forwarders, a_pattern_that_takes_one_in_is_no_user) {
  Files files = station();
  files[0].second =
      "station: src/main.c src/tide.c $(wildcard src/*.h)\n\t$(CC) -Isrc -o $@ src/main.c src/tide.c\n";
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "--forward", "src/tide.h", "include/"}).status, 0);
  EXPECT_EQ(tree.run({"check"}).status, 0);
  EXPECT_EQ(tree.run({"restyle", "--drop-forwarders"}).status, 0);
  EXPECT_EQ(tree.shell(kBuild).status, 0);
}

TEST(Forwarders, dropping_leads_their_users_on) {
  Workspace tree(station());
  tree.run({"move", "--forward", "src/tide.h", "include/"});
  tree.write("src/tide.c", "#include \"tide.h\"\nint tide(void) { return 0; }\n");
  auto before = tree.contents();
  Outcome dropped = tree.run({"restyle", "--drop-forwarders"});
  ASSERT_EQ(dropped.status, 0) << dropped.told;
  EXPECT_FALSE(tree.exists("src/tide.h"));
  EXPECT_EQ(tree.read("src/tide.c").substr(0, 29), "#include \"../include/tide.h\"\n");
  EXPECT_EQ(tree.shell(kBuild + " && rm station").status, 0);
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  EXPECT_EQ(tree.contents(), before);
}

TEST(Forwarders, only_those_of_a_folder_and_only_real_ones) {
  Workspace tree(station());
  tree.run({"move", "--forward", "src/tide.h", "include/"});
  tree.write("old/tide.h", "/* all of it */\n#include \"../include/tide.h\"\n");
  EXPECT_EQ(tree.run({"restyle", "--drop-forwarders", "old"}).status, 2);
  EXPECT_EQ(tree.run({"restyle"}).status, 2);
  EXPECT_EQ(tree.run({"restyle", "--drop-forwarders", "src"}).status, 0);
  EXPECT_TRUE(tree.exists("old/tide.h")) << "a header of somebody's own that includes another one";
  EXPECT_EQ(tree.run({"restyle", "--drop-forwarders"}).out, "There are no forwarders here.\n");
}

TEST(Forwarders, sources_leave_none) {
  Workspace tree(station());
  Outcome outcome = tree.run({"move", "--forward", "src/tide.c", "lib/"});
  EXPECT_EQ(outcome.status, 2) << outcome.told;
  EXPECT_NE(outcome.err.find("nothing that moves can leave a forwarder"), std::string::npos) << outcome.told;
}

TEST(Forwarders, line_ends_stay_and_the_patch_applies) {
  Workspace tree(Files{{"a.c", "#include \"a.h\"\r\n"}, {"a.h", "int a(void);\r\n"}});
  tree.shell("git init -q . && git add -A && git -c user.name=t -c user.email=t@t commit -qm s");
  Outcome moved = tree.run({"move", "--forward", "a.h", "include/", "--patch", "../forward.patch"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_EQ(tree.shell("git apply ../forward.patch && rm ../forward.patch").status, 0);
  EXPECT_NE(tree.read("a.h").find("\r\n#include \"include/a.h\"\r\n"), std::string::npos) << tree.read("a.h");
}

// Settings that take in whatever is there lose nothing by it.
TEST(Forwarders, dropped_where_settings_take_in_the_whole_folder) {
  Workspace tree({{"tsconfig.json", "{ \"compilerOptions\": {}, \"include\": [\"src\"] }\n"},
                  {"src/level.ts", "export const level = 1;\n"},
                  {"src/main.ts", "import { level } from \"./level\";\nconsole.log(level);\n"}});
  ASSERT_EQ(tree.run({"move", "src/level.ts", "src/lib/level.ts", "--forward"}).status, 0);
  tree.write("src/main.ts", "import { level } from \"./lib/level\";\nconsole.log(level);\n");
  Outcome dropped = tree.run({"restyle", "--drop-forwarders"});
  EXPECT_EQ(dropped.status, 0) << dropped.told;
  EXPECT_FALSE(tree.exists("src/level.ts"));
}

}  // namespace
}  // namespace yc::test
