// What a build really reads is the judge: builds are watched, before a move and after it.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "support/workspace.h"

namespace yc::test {
namespace {

using nlohmann::json;
using ::testing::HasSubstr;
using ::testing::Not;

// The table is found through the environment: no text names its place.
const Files kStation = {{"Makefile",
                         "station: main.o gauge.o table.txt\n\t$(CC) -o $@ main.o gauge.o\n"
                         "table.txt:\n\tsh tools/gather.sh > $@\n"
                         "check: station\n\t./station\n"},
                        {"main.c", "#include \"gauge.h\"\nint main(void) { return gauge(); }\n"},
                        {"gauge.c", "#include \"gauge.h\"\nint gauge(void) { return 0; }\n"},
                        {"gauge.h", "int gauge(void);\n"},
                        {"tools/gather.sh", "cat \"$TABLES\"/*.txt 2>/dev/null || echo none\n"},
                        {"data/levels.txt", "0 1 2\n"}};

class Observed : public ::testing::Test {
 protected:
  Observed() : work_(kStation) {}
  Outcome run(const std::string& arguments, const std::string& environment = "") {
    return work_.shell(environment + " '" + YELLOW_COMPASS_PROGRAM + "' " + arguments);
  }
  Workspace work_;
};

TEST_F(Observed, build_that_reads_the_same_is_said_to_do_so) {
  auto before = work_.contents();
  Outcome done = run("rehearse gauge.h gauge.c lib/ --watch -- make check");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(done.out, HasSubstr("It builds after the move as before it: 5 files are read"));
  EXPECT_THAT(done.out, HasSubstr("1 program of the tree run"));
  EXPECT_THAT(done.out, HasSubstr("again   built"));
  EXPECT_EQ(work_.contents(), before);
}

// The build succeeds after the move, from other data: the worst there is.
TEST_F(Observed, build_that_succeeds_but_reads_otherwise_is_a_finding) {
  std::string build = " -- 'TABLES=data make -s check'";
  Outcome plain = run("rehearse data/levels.txt tables/" + build);
  EXPECT_EQ(plain.status, 0) << "it builds, and that is all that is asked\n" << plain.told;
  Outcome differs = run("rehearse data/levels.txt tables/ --watch" + build);
  EXPECT_EQ(differs.status, 1) << differs.told;
  EXPECT_THAT(differs.out, HasSubstr("It builds after the move, but not as before:"));
  EXPECT_THAT(differs.out, HasSubstr("data/levels.txt was read, and tables/levels.txt is not"));
  EXPECT_THAT(differs.out, HasSubstr("by: cat data/levels.txt"));
  json told = json::parse(run("--format json rehearse data/levels.txt tables/ --watch" + build).out);
  EXPECT_EQ(told["builds"][0]["verdict"], "differs");
  EXPECT_EQ(told["builds"][0]["differences"][0]["id"], "not-read");
}

TEST_F(Observed, move_with_a_build_is_carried_out_only_if_the_build_holds) {
  auto before = work_.contents();
  Outcome refused = run("move data/levels.txt tables/ -- 'TABLES=data make -s check'");
  EXPECT_EQ(refused.status, 3) << refused.told;
  EXPECT_THAT(refused.err, HasSubstr("tables/levels.txt is not"));
  EXPECT_THAT(refused.err, HasSubstr("Nothing was changed."));
  EXPECT_EQ(work_.contents(), before);
  Outcome done = run("move gauge.h gauge.c lib/ -- make -s check");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(done.out, HasSubstr("Done, verified and observed: 2 files move"));
  EXPECT_TRUE(work_.exists("lib/gauge.h"));
  EXPECT_EQ(work_.shell("make -s check").status, 0);
}

TEST_F(Observed, doubt_that_a_build_ran_through_is_settled_and_another_is_told) {
  work_.write("tools/show.sh", "cat \"$1/gauge.h\"\n");
  Outcome held = run("move gauge.h lib/");
  EXPECT_EQ(held.status, 3) << "nobody knows what $1 is\n" << held.told;
  Outcome shown = run(
      "move gauge.h lib/ --preview -- 'make -s check && mkdir x && echo > x/gauge.h && sh tools/show.sh x'");
  EXPECT_EQ(shown.status, 0) << shown.told;
  EXPECT_THAT(shown.out, HasSubstr("Settled by what was observed\n  tools/show.sh:1"));
  EXPECT_THAT(shown.out, HasSubstr("observed, which settled 1 doubt: "));
  Outcome other = run("--format json move gauge.h lib/ -- make -s check");
  EXPECT_EQ(other.status, 0) << other.told;
  json told = json::parse(other.out);
  EXPECT_EQ(told["proof"], "observed");
  EXPECT_EQ(told["verified"], false);
  EXPECT_EQ(told["not_exercised"][0]["file"], "tools/show.sh");
}

TEST_F(Observed, read_that_nothing_explains_holds_a_move_back_afterwards) {
  EXPECT_EQ(run("check --observed").status, 2) << "nothing was observed yet";
  EXPECT_EQ(run("rehearse --watch -- 'TABLES=data make -s check'").status, 0);
  Outcome listed = run("check --observed");
  EXPECT_EQ(listed.status, 1);
  EXPECT_THAT(listed.out,
              HasSubstr("data/levels.txt: a build reads it, and no reference says so: cat data/levels.txt"));
  EXPECT_THAT(run("survey").out, HasSubstr("Files that observed builds read 6"));
  Outcome held = run("move data/levels.txt tables/");
  EXPECT_EQ(held.status, 3) << held.told;
  EXPECT_THAT(held.err, HasSubstr("was read by a build, and no reference says why"));
  EXPECT_EQ(run("move data/levels.txt tables/ --accept-unseen --preview").status, 0);
  EXPECT_EQ(run("move gauge.h lib/ --preview").status, 0) << "what is explained goes as ever";
}

TEST_F(Observed, observation_that_somebody_changed_is_not_believed) {
  EXPECT_EQ(run("rehearse --watch -- make -s check").status, 0);
  work_.shell("for f in .yellow-compass/observations/*; do sed -i 's/gauge.h/gauge.x/' \"$f\"; done");
  Outcome refused = run("survey");
  EXPECT_EQ(refused.status, 3) << refused.told;
  EXPECT_THAT(refused.err, HasSubstr("was not written by you on this machine"));
}

// Two headers of one name, and a compiler that nobody can know: only what was observed tells which one is
// meant.
TEST_F(Observed, search_roots_that_a_compiler_was_seen_to_use_are_facts) {
  work_.write("Makefile",
              "HOSTCC := $(shell sh tools/pick.sh)\ncheck: tool\n\t./tool\ntool: tool.c\n\t$(HOSTCC) -Iinc "
              "-o $@ $<\n");
  work_.write("tools/pick.sh", "echo cc\n");
  work_.write("tool.c", "#include \"level.h\"\nint main(void) { return LEVEL; }\n");
  work_.write("inc/level.h", "#define LEVEL 0\n");
  work_.write("old/level.h", "#define LEVEL 1\n");
  work_.write("inc/other.h", "\n");
  EXPECT_EQ(run("rehearse --watch -- make -s check").status, 0);
  EXPECT_THAT(run("refs inc/level.h").out, HasSubstr("tool.c:1:11"));
  Outcome done = run("move inc/level.h lib/");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(work_.read("tool.c"), HasSubstr("#include \"lib/level.h\""));
  EXPECT_EQ(work_.shell("make -s check").status, 0);
}

// A person has looked at a text: it stands in no move's way any more.
TEST_F(Observed, doubt_is_settled_once_and_for_good_with_a_reason) {
  work_.write("tools/show.sh", "cat \"$1/gauge.h\"\necho 'a \"b\"'; cat \"$2/gauge.h\"\n");
  Outcome held = run("move gauge.h lib/ --preview");
  EXPECT_EQ(held.status, 3);
  EXPECT_THAT(held.err, HasSubstr("tools/show.sh:1:"));
  EXPECT_EQ(run("move gauge.h lib/ --settle tools/show.sh:1").status, 2) << "without a reason";
  EXPECT_EQ(run("move gauge.h lib/ --settle main.c:1 --because x").status, 2) << "there is no doubt";
  EXPECT_EQ(run("move gauge.h lib/ --preview --settle tools/show.sh --because x").status, 0);
  EXPECT_FALSE(work_.exists("yellow-compass.toml")) << "a preview writes nothing";
  Outcome one =
      run("move gauge.h lib/ --preview --settle tools/show.sh:1 --settle tools/show.sh:2 --because x");
  EXPECT_EQ(one.status, 0) << one.told;
  Outcome done =
      run("move gauge.h lib/ --settle tools/show.sh:1 --settle tools/show.sh:2 --because 'only the "
          "\"installed\" ones'");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(done.out,
              HasSubstr("Done and verified (2 doubts are settled in yellow-compass.toml): 1 file moves"));
  std::string config = work_.read("yellow-compass.toml");
  EXPECT_THAT(config, HasSubstr("[[settled]]\nfile = \"tools/show.sh\"\n"));
  EXPECT_THAT(config, HasSubstr("installed"));
  EXPECT_EQ(run("undo").status, 0);
  EXPECT_EQ(run("move gauge.h lib/").status, 0) << "it stays settled";
}

TEST_F(Observed, without_the_tracer_it_says_so_and_goes_on) {
  work_.shell("mkdir bin && for p in sh make cc gcc cat as ld; do ln -s $(command -v $p) bin/; done");
  Outcome done = run("move gauge.h lib/ -- make -s check", "PATH=$PWD/bin");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(done.err, HasSubstr("the builds are not watched: strace is not installed"));
  EXPECT_THAT(done.out, HasSubstr("Done, verified and built before and after, though not watched"));
}

TEST_F(Observed, builds_of_the_configuration_are_taken_when_asked_for) {
  EXPECT_EQ(run("move gauge.h lib/ --rehearsed").status, 2);
  work_.write("yellow-compass.toml", "builds = [\"make -s check\"]\n");
  Outcome done = run("move gauge.h lib/ --rehearsed");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(done.out, HasSubstr("verified and observed"));
}

TEST_F(Observed, dashes_before_the_paths_only_end_the_options) {
  work_.write("-odd.txt", "");
  Outcome done = run("move -- -odd.txt data/");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_TRUE(work_.exists("data/-odd.txt"));
  Outcome built = run("move -- data/-odd.txt other/ -- make -s check");
  EXPECT_EQ(built.status, 0) << built.told;
  EXPECT_THAT(built.out, HasSubstr("observed"));
}

TEST_F(Observed, build_where_it_was_built_before_that_fails_is_told) {
  work_.write("Makefile",
              "check: gauge.o\n\ttest ! -e old-place\n\tif test -e gauge.h; then touch old-place; fi\n");
  Outcome told = run("rehearse gauge.h lib/ --watch -- make -s check");
  EXPECT_THAT(told.out, HasSubstr("What is built there already is in the way: clean it after the move."));
}

}  // namespace
}  // namespace yc::test
