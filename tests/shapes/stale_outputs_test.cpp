// What the last build left: it changes no plan, and what would stop the next build is named or swept.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

using ::testing::HasSubstr;
using ::testing::Not;

Files gauge(const std::string& flags) {
  return {{"Makefile", "OBJ = src/tide.o src/main.o\nCFLAGS += " + flags +
                           " -Isrc\ntide: $(OBJ)\n\t$(CC) -o $@ $(OBJ)\n-include $(OBJ:.o=.d)\n"},
          {"src/tide.h", "int tide(void);\n"},
          {"src/tide.c", "#include \"tide.h\"\nint tide(void) { return 0; }\n"},
          {"src/main.c", "#include \"tide.h\"\nint main(void) { return tide(); }\n"},
          {".gitignore", "*.o\n*.d\n/tide\n"}};
}

TEST(StaleOutputs, dependency_files_are_named_or_swept) {
  Workspace tree(gauge("-MMD"));
  ASSERT_EQ(tree.shell("git init -q . && git add -A && git commit -qm x && make").status, 0);
  Outcome told = tree.run({"move", "src/tide.h", "include/tide.h"});
  EXPECT_EQ(told.status, 0) << told.told;
  EXPECT_THAT(told.out, HasSubstr("rm src/tide.d src/tide.o, or move with --sweep"));
  EXPECT_THAT(told.out, HasSubstr("once what the last build left is removed"));
  EXPECT_NE(tree.shell("make").status, 0) << "it was right";
  EXPECT_EQ(tree.shell("rm src/tide.d src/tide.o src/main.d src/main.o && make").status, 0)
      << "so was the advice";
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  ASSERT_EQ(tree.shell("rm -f src/*.d src/*.o && make").status, 0);
  auto before = tree.contents();
  Outcome swept = tree.run({"move", "--sweep", "src/tide.h", "include/tide.h"});
  EXPECT_EQ(swept.status, 0) << swept.told;
  EXPECT_THAT(swept.out, HasSubstr("Done and verified: 1 file moves, 4 files go"));
  EXPECT_EQ(tree.shell("make").status, 0);
  EXPECT_THAT(tree.shell("git status --short").out, Not(HasSubstr(".o")));
  // Also after a build that made them anew.
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  EXPECT_EQ(tree.contents(), before);
  EXPECT_EQ(tree.shell("make").status, 0);
}

TEST(StaleOutputs, what_make_goes_on_with_is_not_named) {
  Workspace tree(gauge("-MMD -MP"));
  ASSERT_EQ(tree.shell("git init -q . && git add -A && git commit -qm x && make").status, 0);
  Outcome moved = tree.run({"move", "src/tide.h", "include/tide.h"});
  EXPECT_THAT(moved.out, Not(HasSubstr("--sweep")));
  EXPECT_EQ(tree.shell("make").status, 0);
}

TEST(StaleOutputs, outputs_do_not_hide_their_sources) {
  const Files files = {
      {"package.json", "{\n  \"scripts\": { \"start\": \"node dist/net/server.js\" }\n}\n"},
      {"tsconfig.json",
       "{ \"compilerOptions\": { \"rootDir\": \"src\", \"outDir\": \"dist\" }, \"include\": [\"src\"] }\n"},
      {"src/net/server.ts", "export const port = 1;\n"},
      {".gitignore", "dist/\n"}};
  for (bool is_built : {false, true}) {
    Workspace tree(files);
    std::string build = is_built ? "mkdir -p dist/net && echo > dist/net/server.js" : "true";
    ASSERT_EQ(tree.shell("git init -q . && git add -A && git commit -qm x && " + build).status, 0);
    EXPECT_EQ(tree.run({"move", "src/net", "src/serving"}).status, 0);
    EXPECT_THAT(tree.read("package.json"), HasSubstr("node dist/serving/server.js")) << is_built;
  }
}

}  // namespace
}  // namespace yc::test
