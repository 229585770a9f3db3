// Files that were moved by hand: found by content, and what names them mended as if the program had moved
// them.
#include <fmt/format.h>
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "support/workspace.h"

namespace yc::test {
namespace {

using nlohmann::json;
using ::testing::HasSubstr;
using ::testing::Not;

std::string lines(const std::string& name, int count) {
  std::string out;
  for (int i = 0; i < count; ++i) out += fmt::format("static int {}_{}(void) {{ return {}; }}\n", name, i, i);
  return out;
}

class CatchUp : public ::testing::Test {
 protected:
  Outcome run(const std::string& arguments) {
    return work_.shell(std::string("'") + YELLOW_COMPASS_PROGRAM + "' " + arguments);
  }
  void commit() {
    work_.shell(
        "git init -q . 2>/dev/null; git add -A; git -c user.name=t -c user.email=t@t commit -qm step");
  }
  void small_station() {
    work_.write("Makefile", "station: main.o gauge.o\n\t$(CC) -o $@ $^\n");
    work_.write("main.c", "#include \"gauge.h\"\nint main(void) { return gauge(); }\n");
    work_.write("gauge.c", "#include \"gauge.h\"\nint gauge(void) { return 0; }\n" + lines("g", 8));
    work_.write("gauge.h", "#ifndef GAUGE_H\n#define GAUGE_H\nint gauge(void);\n#endif\n");
    commit();
  }
  Workspace work_;
};

TEST_F(CatchUp, plain_moves_are_mended_and_undone) {
  small_station();
  work_.shell("mkdir lib && mv gauge.c gauge.h lib/");
  auto before = work_.contents();
  Outcome done = run("catch-up");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(done.out, HasSubstr("gauge.c -> lib/gauge.c   (same content)"));
  EXPECT_EQ(work_.shell("make -s station").status, 0);
  work_.shell("rm -f *.o lib/*.o station");
  EXPECT_EQ(run("undo").status, 0);
  EXPECT_EQ(work_.contents(), before) << "undo takes back the mending, not the moves";
}

TEST_F(CatchUp, what_was_mended_by_hand_is_left_alone) {
  small_station();
  work_.shell("mkdir lib && git mv gauge.c gauge.h lib/ && sed -i 's/\"gauge.h\"/\"lib\\/gauge.h\"/' main.c");
  std::string main = work_.read("main.c");
  Outcome done = run("catch-up");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(done.out, HasSubstr("left alone"));
  EXPECT_EQ(work_.read("main.c"), main);
  EXPECT_EQ(work_.shell("make -s station").status, 0);
  EXPECT_THAT(run("catch-up").out, HasSubstr("nothing is left to mend"));
}

TEST_F(CatchUp, committed_moves_are_found_since_a_commit) {
  small_station();
  work_.shell("git mv gauge.h tide.h");
  commit();
  EXPECT_THAT(run("catch-up").out, HasSubstr("Nothing was moved"));
  EXPECT_EQ(run("catch-up --since HEAD~1").status, 0);
  EXPECT_THAT(work_.read("main.c"), HasSubstr("\"tide.h\""));
  EXPECT_EQ(run("catch-up --since no-such-thing").status, 2);
}

TEST_F(CatchUp, only_what_content_cannot_tell_is_asked_and_a_sheet_answers) {
  small_station();
  work_.write("one.txt", "tide table\n");
  work_.write("two.txt", "tide table\n");
  commit();
  work_.shell("mkdir a && mv one.txt a/x.txt && mv two.txt a/y.txt && mkdir lib && mv gauge.h lib/");
  Outcome asked = run("catch-up");
  EXPECT_EQ(asked.status, 3);
  EXPECT_THAT(asked.out, HasSubstr("one.txt -> ?"));
  EXPECT_THAT(asked.out, HasSubstr("gauge.h -> lib/gauge.h   (same content)"));
  EXPECT_THAT(asked.err, HasSubstr("--sheet"));
  EXPECT_THAT(work_.read("main.c"), HasSubstr("\"gauge.h\"")) << "nothing is mended before all is clear";
  work_.write("../" + std::string("answer.sheet"), "one.txt -> a/y.txt\ntwo.txt -> a/x.txt\n");
  EXPECT_EQ(run("catch-up --sheet ../answer.sheet").status, 0);
  work_.shell("rm -f ../answer.sheet");
  EXPECT_THAT(work_.read("main.c"), HasSubstr("lib/gauge.h"));
}

TEST_F(CatchUp, preview_and_patch_write_nothing) {
  small_station();
  work_.shell("mkdir lib && mv gauge.h lib/");
  auto before = work_.contents();
  EXPECT_THAT(run("catch-up --preview").out, HasSubstr("+ #include \"lib/gauge.h\""));
  EXPECT_THAT(run("catch-up --patch -").out, HasSubstr("+#include \"lib/gauge.h\""));
  EXPECT_EQ(work_.contents(), before);
  json told = json::parse(run("catch-up --format json").out);
  EXPECT_EQ(told["outcome"], "carried-out");
  EXPECT_EQ(told["moves"][0]["alike"], 100);
}

TEST_F(CatchUp, mends_what_it_can_and_tells_what_is_left) {
  Workspace tree({{"Makefile", "all:\n\tcat *.c > all.i\n\tcc -o tides main.c gauge.c\n"},
                  {"main.c", "#include \"level.h\"\nint gauge(void);\nint main(void) { return gauge(); }\n"},
                  {"gauge.c", "#include \"level.h\"\nint gauge(void) { return LEVEL; }\n"},
                  {"level.h", "#define LEVEL 0\n"}});
  tree.shell("git init -q . && git add -A && git -c user.name=a -c user.email=a@b commit -q -m first");
  tree.shell("mkdir include && mv level.h include/ && mv gauge.c probe.c");
  Outcome preview = tree.run({"catch-up", "--preview"});
  EXPECT_EQ(preview.status, 1) << preview.told;
  EXPECT_NE(preview.out.find("nothing written"), std::string::npos) << preview.told;
  EXPECT_NE(tree.shell("make").status, 0) << "nothing was mended yet";
  Outcome run = tree.run({"catch-up"});
  EXPECT_EQ(run.status, 1) << run.told;
  EXPECT_NE(run.out.find("Mended in part: 3 edits in 3 files."), std::string::npos) << run.told;
  EXPECT_NE(run.err.find("Left for you, 1 place"), std::string::npos) << run.told;
  EXPECT_NE(run.err.find("handed on in the order of names"), std::string::npos) << run.told;
  EXPECT_EQ(tree.shell("make").status, 0);
  Outcome again = tree.run({"catch-up", "--format", "json"});
  EXPECT_NE(again.out.find("in the order of names"), std::string::npos) << again.told;
  Outcome undone = tree.run({"undo"});
  EXPECT_EQ(undone.status, 0) << undone.told;
  EXPECT_NE(tree.read("main.c").find("#include \"level.h\""), std::string::npos);
}

TEST_F(CatchUp, without_a_repository_there_is_nothing_to_compare_with) {
  work_.write("a.c", "");
  Outcome refused = run("catch-up");
  EXPECT_EQ(refused.status, 2);
  EXPECT_THAT(refused.err, HasSubstr("is in no repository"));
}

// 300 files, 40 of them moved by hand, 10 of these edited as well, and two folders renamed.
TEST_F(CatchUp, large_tidying_by_hand_is_found_and_builds_after) {
  std::string sources;
  for (int i = 0; i < 150; ++i) {
    std::string folder = fmt::format("part{}", i % 10), name = fmt::format("m{}", i);
    work_.write(fmt::format("src/{}/{}.h", folder, name),
                fmt::format("#ifndef M{0}\n#define M{0}\nint {1}(void);\n#endif\n", i, name));
    int other = (i * 7 + 1) % 150;
    work_.write(
        fmt::format("src/{}/{}.c", folder, name),
        fmt::format("#include \"{0}.h\"\n#include <part{1}/m{2}.h>\nint {0}(void) {{ return {3}; }}\n{4}",
                    name, other % 10, other, i, lines(name, 6)));
    sources += fmt::format(" src/{}/{}.c", folder, name);
  }
  work_.write("main.c", "#include <part0/m0.h>\nint main(void) { return m0(); }\n");
  work_.write(
      "Makefile",
      fmt::format("CPPFLAGS = -Isrc\nCFLAGS = -w\nSRC = main.c{}\nstation: $(SRC:.c=.o)\n\t$(CC) -o $@ $^\n",
                  sources));
  work_.write(".gitignore", "*.o\nstation\n");
  commit();
  ASSERT_EQ(work_.shell("make -s -j2 station").status, 0);
  work_.shell("make -s -t >/dev/null; find . -name '*.o' -delete; rm -f station");
  std::string script =
      "mv src/part8 src/old8; mkdir -p core; mv src/part9 core/part9; mkdir -p src/moved src/other;";
  for (int i = 0; i < 40; ++i) {
    int module = (i / 2) * 10 + i / 2 % 8;  // in parts 0 to 7
    if (module >= 150) module = 140 + i % 8 - 100;
    script += fmt::format("mv src/part{0}/m{1}.{2} src/{3}/ 2>/dev/null;", module % 10, module,
                          i % 2 ? "h" : "c", i % 4 < 2 ? "moved" : "other");
    if (i % 4 == 0) script += fmt::format("echo '/* checked */' >> src/moved/m{}.c;", module);
  }
  work_.shell(script);
  Outcome done = run("catch-up");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(done.out, HasSubstr("src/part8/ -> src/old8/   (30 files, same content)"));
  EXPECT_THAT(done.out, HasSubstr("src/part9/ -> core/part9/"));
  EXPECT_THAT(done.out, HasSubstr("% alike"));
  EXPECT_THAT(done.out, Not(HasSubstr("is gone")));
  Outcome built = work_.shell("make -s -j2 station");
  EXPECT_EQ(built.status, 0) << built.told;
}

TEST_F(CatchUp, fresh_clone_is_told_what_it_would_lack) {
  small_station();
  EXPECT_THAT(run("check --clone").out, HasSubstr("would lead somewhere"));
  work_.write("tide.h", "int tide(void);\n");
  work_.write("main.c", "#include \"gauge.h\"\n#include \"tide.h\"\nint main(void) { return gauge(); }\n");
  Outcome untracked = run("check --clone");
  EXPECT_EQ(untracked.status, 1);
  EXPECT_THAT(untracked.out, HasSubstr("main.c:2:11: include leads to tide.h, which is not committed"));
  work_.write("Makefile", "station: main.c gauge.c\n\t$(CC) -o $@ $^\n");
  work_.write(".gitignore", "gauge.c\n");
  work_.shell(
      "git rm -q --cached gauge.c; git add .gitignore; git -c user.name=t -c user.email=t@t commit -qm less");
  EXPECT_THAT(run("check --clone").out, HasSubstr("gauge.c, which is ignored by version control"));
}

// The script that was mended is not committed: in a clone the old one is read, and finds nothing.
TEST_F(CatchUp, mended_file_that_is_not_committed_is_told) {
  small_station();
  work_.shell("mkdir lib && git mv gauge.h lib/ && git -c user.name=t -c user.email=t@t commit -qm moved");
  ASSERT_EQ(run("catch-up --since HEAD~1").status, 0);
  Outcome lacking = run("check --clone");
  EXPECT_EQ(lacking.status, 1);
  EXPECT_THAT(lacking.out, HasSubstr("the change of this file that mends it is not committed"));
  commit();
  EXPECT_EQ(run("check --clone").status, 0);
}

}  // namespace
}  // namespace yc::test
