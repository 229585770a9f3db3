// A move is tried out in clean copies with the project's own build; the real tree is never touched.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "support/workspace.h"

namespace yc::test {
namespace {

using nlohmann::json;
using ::testing::HasSubstr;
using ::testing::Not;

const Files kStation = {{"Makefile", "station: main.o gauge.o\n\t$(CC) -o $@ $^\n"},
                        {"main.c", "#include \"gauge.h\"\nint main(void) { return gauge(); }\n"},
                        {"gauge.c", "#include \"gauge.h\"\nint gauge(void) { return 0; }\n"},
                        {"gauge.h", "int gauge(void);\n"},
                        {"tools/gen.sh", "#!/bin/sh\ncat data/table.txt\n"},
                        {"data/table.txt", "0 1 2\n"}};

class Rehearse : public ::testing::Test {
 protected:
  Rehearse() : work_(kStation) { work_.shell("chmod 755 tools/gen.sh"); }
  Outcome run(const std::string& arguments) {
    return work_.shell(std::string("'") + YELLOW_COMPASS_PROGRAM + "' " + arguments);
  }
  void commit() {
    work_.shell(
        "git init -q . 2>/dev/null; git add -A; git -c user.name=t -c user.email=t@t commit -qm step");
  }
  Workspace work_;
};

TEST_F(Rehearse, good_move_builds_before_and_after_and_the_tree_is_untouched) {
  auto before = work_.contents();
  Outcome done = run("rehearse gauge.c gauge.h lib/ -- make -s station");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(done.out, HasSubstr("It builds before the move and after it."));
  EXPECT_EQ(work_.contents(), before);
}

// Only node_modules are copied by themselves; a link is not, for the build would write through it.
TEST_F(Rehearse, copies_get_installed_packages_but_not_of_a_fresh_clone) {
  work_.shell(
      "printf 'node_modules\\nvenv\\n' >.gitignore; mkdir -p node_modules/tide venv far; echo kept "
      ">far/kept; "
      "echo '{}' >package.json; echo 0 >node_modules/tide/index.js; ln -s tide node_modules/link; echo 0 "
      ">venv/run; "
      "mkdir web; echo '{}' >web/package.json; ln -s \"$PWD/far\" web/node_modules");
  commit();
  const std::string build =
      " -- 'cat node_modules/link/index.js && rm -r node_modules && echo x >web/node_modules/kept; ";
  EXPECT_EQ(run("rehearse gauge.c lib/" + build + "test ! -e venv'").status, 0);
  EXPECT_EQ(run("rehearse --fresh-clone gauge.c lib/ -- cat node_modules/link/index.js").status, 1);
  work_.write("yellow-compass.toml", "installed = [\"venv\"]\n");
  Outcome named = run("rehearse gauge.c lib/" + build + "cat venv/run'");
  EXPECT_EQ(named.status, 0) << named.told;
  EXPECT_EQ(work_.shell("cat node_modules/tide/index.js far/kept").out, "0\nkept\n");
}

// A path that is only known when the script runs is the build's to find out.
TEST_F(Rehearse, move_that_breaks_the_build_is_told_with_the_lines_that_tell) {
  Outcome broke = run("rehearse data/table.txt data/levels.txt -- 'make -s station && ls data/table.txt'");
  EXPECT_EQ(broke.status, 1) << broke.told;
  EXPECT_THAT(broke.out, HasSubstr("The move breaks it."));
  EXPECT_THAT(broke.out, HasSubstr("data/table.txt"));
  EXPECT_THAT(broke.out, HasSubstr("there: data/table.txt moved to data/levels.txt"));
  json told =
      json::parse(run("--format json rehearse data/table.txt data/levels.txt -- ls data/table.txt").out);
  EXPECT_EQ(told["builds"][0]["verdict"], "broke");
  EXPECT_EQ(told["builds"][0]["before"]["built"], true);
}

TEST_F(Rehearse, build_that_never_worked_is_not_blamed_on_the_move) {
  work_.write("main.c", "#include \"gone.h\"\nint main(void) { return 0; }\n");
  Outcome never = run("rehearse gauge.c lib/ -- make -s station");
  EXPECT_EQ(never.status, 1);
  EXPECT_THAT(never.out, HasSubstr("does not build even without a move"));
  EXPECT_THAT(never.out, HasSubstr("gone.h"));
  EXPECT_THAT(never.out, HasSubstr("there: include \"gone.h\" leads to nowhere"));
}

TEST_F(Rehearse, old_outputs_do_not_help_the_build) {
  work_.write(".gitignore", "*.o\n");
  commit();
  work_.shell("make -s main.o gauge.o && rm gauge.c && git rm -q --cached gauge.c");
  EXPECT_EQ(work_.shell("make -s station").status, 0) << "the stale object is enough here";
  work_.shell("rm -f station");
  EXPECT_EQ(run("rehearse -- make -s station").status, 1) << "but not in a clean copy";
}

TEST_F(Rehearse, fresh_clone_names_what_is_not_committed) {
  work_.shell(
      "git init -q . && git add -A && git rm -q --cached gauge.h && git -c user.name=t -c user.email=t@t "
      "commit -qm x");
  Outcome lacking = run("rehearse --fresh-clone -- make -s station");
  EXPECT_EQ(lacking.status, 1);
  EXPECT_THAT(lacking.out, HasSubstr("A fresh clone lacks"));
  EXPECT_THAT(lacking.out, HasSubstr("gauge.h, which is not committed"));
  commit();
  EXPECT_EQ(run("rehearse --fresh-clone -- make -s station").status, 0);
}

TEST_F(Rehearse, time_limit_stops_the_build_and_its_children) {
  Outcome stopped = run("rehearse --time-limit 1 -- 'sleep 97 & sleep 98'");
  EXPECT_EQ(stopped.status, 1);
  EXPECT_THAT(stopped.out, HasSubstr("was stopped after 1 s"));
  EXPECT_NE(work_.shell("ps ax | grep -v grep | grep 'sleep 9[78]'").status, 0);
}

TEST_F(Rehearse, builds_of_the_configuration_are_run_in_turn) {
  work_.write("yellow-compass.toml", "builds = [\"make -s station\", \"make -s CFLAGS=-O2 station\"]\n");
  Outcome done = run("rehearse gauge.c lib/");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(done.out, HasSubstr("make -s CFLAGS=-O2 station"));
}

TEST_F(Rehearse, copies_keep_permissions_and_can_be_kept) {
  Outcome kept = run("rehearse tools/gen.sh tools/make-table.sh --keep -- 'test -x tools/*.sh'");
  EXPECT_EQ(kept.status, 0) << kept.told;
  EXPECT_THAT(kept.out, HasSubstr("kept: "));
  // Only its own copies: other tests have theirs in the same place.
  for (std::size_t at = 0; (at = kept.out.find("kept: ", at)) != std::string::npos; ++at) {
    std::size_t begin = at + 6;
    work_.shell("rm -rf '" + kept.out.substr(begin, kept.out.find('\n', begin) - begin) + "'");
  }
}

TEST_F(Rehearse, usage) {
  EXPECT_EQ(run("rehearse gauge.c lib/").status, 2);
  EXPECT_EQ(run("rehearse gauge.c -- make").status, 2);
  work_.write("-odd", "");
  EXPECT_EQ(run("move -- -odd even").status, 0) << "elsewhere -- only ends the options";
}

}  // namespace
}  // namespace yc::test
