// What the program keeps between runs (docs/cache.md).
#include <fmt/format.h>
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <filesystem>

#include "support/workspace.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;
using ::testing::HasSubstr;
using ::testing::Not;

class Cache : public ::testing::Test {
 protected:
  // With a cache folder of its own, beside the tree.
  Outcome run(const std::string& arguments, const std::string& cache = "$PWD-kept") const {
    return tree_.shell(fmt::format("XDG_CACHE_HOME=\"{}\" {} {}", cache, YELLOW_COMPASS_PROGRAM, arguments));
  }
  ~Cache() override {
    std::error_code ignored;
    fs::remove_all(tree_.root() + "-kept", ignored);
  }

  Workspace tree_{{{"Makefile", "SRC = tide.c gauge.c\nall: $(SRC:.c=.o)\n\tcc -o tides $^\n"},
                   {"tide.c", "#include \"level.h\"\nint main(void) { return LEVEL; }\n"},
                   {"gauge.c", ""},
                   {"level.h", "#define LEVEL 0\n"},
                   {"board/CMakeLists.txt", "project(board)\nadd_executable(board main.cpp)\n"},
                   {"board/main.cpp", "int main() {}\n"}}};
};

TEST_F(Cache, is_used_by_the_next_run_and_changes_nothing) {
  Outcome first = run("survey --stats"), second = run("survey --stats"), plain = run("survey --no-cache");
  EXPECT_THAT(first.err, HasSubstr("make, 1 parts read"));
  EXPECT_THAT(second.err, HasSubstr("make, 1 parts kept")) << second.told;
  EXPECT_THAT(second.err, HasSubstr("cmake, 1 parts kept")) << second.told;
  EXPECT_THAT(second.err, Not(HasSubstr("parts read"))) << second.told;
  EXPECT_EQ(first.out, plain.out);
  EXPECT_EQ(second.out, plain.out);
}

TEST_F(Cache, notices_what_changed_since) {
  run("survey");
  tree_.write("Makefile", "SRC = gauge.c\nall: $(SRC)\n\tcc -o tides $(SRC)\n");
  EXPECT_EQ(run("survey").out, run("survey --no-cache").out);
  tree_.shell("mv gauge.c buoy.c");
  EXPECT_EQ(run("check").out, run("check --no-cache").out);
  EXPECT_THAT(run("check").out, HasSubstr("gauge.c"));
}

TEST_F(Cache, what_a_preview_read_serves_the_move_and_what_comes_after) {
  run("move tide.c src/ --preview");
  Outcome move = run("move tide.c src/ --stats");
  ASSERT_EQ(move.status, 0) << move.told;
  EXPECT_THAT(move.err, Not(HasSubstr("parts read"))) << move.told;
  Outcome after = run("check --stats");
  EXPECT_EQ(after.status, 0) << after.told;
  EXPECT_THAT(after.err, Not(HasSubstr("parts read"))) << after.told;
  EXPECT_EQ(tree_.shell("make").status, 0);
}

TEST_F(Cache, may_be_left_alone) {
  Outcome plain = run("survey --no-cache --stats");
  EXPECT_EQ(plain.status, 0) << plain.told;
  EXPECT_FALSE(fs::exists(tree_.root() + "-kept"));
  Outcome nowhere = tree_.shell(fmt::format("XDG_CACHE_HOME=/proc/1/none {} survey", YELLOW_COMPASS_PROGRAM));
  EXPECT_EQ(nowhere.status, 0) << nowhere.told;
  EXPECT_EQ(nowhere.out, plain.out);
}

TEST_F(Cache, is_never_kept_in_the_tree_itself) {
  auto before = tree_.contents();
  Outcome inside = run("survey", "$PWD/cache");
  EXPECT_EQ(inside.status, 0) << inside.told;
  EXPECT_EQ(tree_.contents(), before);
}

TEST_F(Cache, two_runs_at_once_do_no_harm) {
  Outcome both = tree_.shell(
      fmt::format("export XDG_CACHE_HOME=$PWD-kept; for i in 1 2 3 4; do {} survey > $PWD-kept.$i & done; "
                  "wait; cmp $PWD-kept.1 $PWD-kept.2 && cmp $PWD-kept.1 $PWD-kept.3 && cmp $PWD-kept.1 "
                  "$PWD-kept.4; s=$?; rm -f $PWD-kept.*; exit $s",
                  YELLOW_COMPASS_PROGRAM));
  EXPECT_EQ(both.status, 0) << both.told;
  EXPECT_THAT(run("survey --stats").err, HasSubstr("make, 1 parts kept"));
}

}  // namespace
}  // namespace yc::test
