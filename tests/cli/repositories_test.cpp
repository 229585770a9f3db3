// Repositories of kinds that cannot be written, nested ones, and roots that are none: what cannot be kept in
// step is said, and nothing is left behind in silence.
#include <fmt/format.h>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <unistd.h>

#include <filesystem>
#include <ostream>

#include "support/workspace.h"

namespace yc::test {
namespace {

using ::testing::HasSubstr;
using ::testing::Not;

const Files kGauge = {{"Makefile", "gauge: gauge.c\n\tcc -o $@ gauge.c\n"},
                      {"gauge.c", "int main(void) { return 0; }\n"},
                      {".gitignore", "made/\n"},
                      {"made/list.mk", "SRC = gauge.c\n"}};

struct Kind {
  const char* name;
  const char* make;  // in the tree
  const char* says;
};

void PrintTo(const Kind& kind, std::ostream* out) {
  *out << kind.name;
}

class Unusable : public ::testing::TestWithParam<Kind> {};

TEST_P(Unusable, repository_is_told_and_left_only_on_request) {
  // Settings of the person who tests may trust all owners.
  setenv("GIT_CONFIG_GLOBAL", "/dev/null", 1);
  setenv("HOME", "/nonexistent", 1);
  Workspace tree(kGauge);
  if (std::string(GetParam().name) == "other_owner" && geteuid() != 0) GTEST_SKIP() << "needs root";
  Outcome made = tree.shell(GetParam().make);
  ASSERT_EQ(made.status, 0) << made.told;
  auto before = tree.contents();
  std::string index = tree.shell("md5sum .git/index").out;
  Outcome refused = tree.run({"move", "gauge.c", "lib/gauge.c"});
  EXPECT_EQ(refused.status, 3) << refused.told;
  EXPECT_THAT(refused.err, HasSubstr(GetParam().says));
  EXPECT_THAT(refused.err, HasSubstr("--no-stage"));
  EXPECT_EQ(tree.contents(), before);
  EXPECT_THAT(tree.run({"move", "gauge.c", "lib/gauge.c", "--preview"}).out, HasSubstr("--no-stage"));
  Outcome moved = tree.run({"move", "gauge.c", "lib/gauge.c", "--no-stage"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_EQ(tree.read("made/list.mk"), "SRC = gauge.c\n") << "what is ignored is not edited";
  EXPECT_THAT(tree.read("Makefile"), HasSubstr("lib/gauge.c"));
  EXPECT_EQ(tree.shell("md5sum .git/index").out, index);
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  EXPECT_EQ(tree.contents(), before);
}

INSTANTIATE_TEST_SUITE_P(
    Kinds, Unusable,
    ::testing::Values(
        Kind{"newer_objects", "git init -q --object-format=sha256 . && git add -A", "repository"},
        Kind{"unknown_extension",
             "git init -q . && git add -A && git config core.repositoryformatversion 1 && git config "
             "extensions.tides true",
             "extension"},
        Kind{"broken_settings", "git init -q . && git add -A && printf '[core\\n' >> .git/config",
             "repository"},
        Kind{"other_owner", "git init -q . && git add -A && chown -R 12345 .", "own"},
        Kind{"split_index", "git init -q . && git add -A && git update-index --split-index && git add -A",
             "index"},
        Kind{"damaged_index",
             "git init -q . && git add -A && printf 'xxxx' | dd of=.git/index conv=notrunc 2>/dev/null",
             "index"}),
    [](const auto& param) { return std::string(param.param.name); });

TEST(Repositories, root_in_the_data_of_a_repository_is_refused) {
  Workspace tree;
  ASSERT_EQ(tree.shell("git init -q --bare store.git && git init -q work").status, 0);
  for (const char* root : {"store.git", "store.git/refs", "work/.git", "work/.git/hooks"}) {
    Outcome moved = tree.run({"-C", root, "move", "HEAD", "HEAD2"});
    EXPECT_EQ(moved.status, 2) << moved.told;
    EXPECT_THAT(moved.err, HasSubstr("data of a repository"));
  }
  EXPECT_TRUE(tree.exists("store.git/HEAD"));
}

TEST(Repositories, places_of_version_control_and_of_the_program_take_nothing) {
  Workspace tree(kGauge);
  for (const char* to :
       {".git/hooks/post-checkout", ".yellow-compass/x.c", "lib/.git/x.c", "a/.yellow-compass/journals/x"}) {
    Outcome moved = tree.run({"move", "gauge.c", to});
    EXPECT_EQ(moved.status, 2) << moved.told;
    EXPECT_THAT(moved.err, HasSubstr("protected"));
  }
  ASSERT_EQ(tree.run({"move", "gauge.c", "lib/"}).status, 0);
  Outcome moved = tree.run({"move", ".yellow-compass", "records"});
  EXPECT_EQ(moved.status, 2) << moved.told;
}

class Nested : public ::testing::Test {
 protected:
  void SetUp() override {
    Outcome made = tree_.shell(
        "export GIT_AUTHOR_NAME=t GIT_AUTHOR_EMAIL=t@t GIT_COMMITTER_NAME=t GIT_COMMITTER_EMAIL=t@t; git "
        "init -q . && "
        "git init -q part && (cd part && echo a > a.txt && git add -A && git commit -qm a) && git add -A "
        "2>/dev/null && "
        "git commit -qm all");
    ASSERT_EQ(made.status, 0) << made.told;
    listed_ = listed();
    ASSERT_THAT(listed_, HasSubstr("160000"));
  }
  std::string listed() { return tree_.shell("git ls-files -s").out; }

  Workspace tree_{kGauge};
  std::string listed_;
};

TEST_F(Nested, what_moves_in_leaves_the_index_and_the_entry_of_the_repository_stays) {
  Outcome moved = tree_.run({"move", "gauge.c", "part/gauge.c"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_THAT(listed(), HasSubstr("160000"));
  EXPECT_THAT(listed(), Not(HasSubstr("gauge.c")));
  EXPECT_THAT(moved.out, HasSubstr("a repository of its own"));
  ASSERT_EQ(tree_.run({"undo"}).status, 0);
  EXPECT_EQ(listed(), listed_);
}

TEST_F(Nested, what_moves_out_leaves_the_entry_of_the_repository) {
  Outcome moved = tree_.run({"move", "part/a.txt", "notes/a.txt"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_EQ(listed(), listed_);
  EXPECT_THAT(moved.out, HasSubstr("a repository of its own"));
  ASSERT_EQ(tree_.run({"undo"}).status, 0);
  EXPECT_EQ(listed(), listed_);
}

// Moved by a program that cannot read them, files would lose what names them.
TEST(Unreadable, files_and_folders_hold_back_what_they_could_name) {
  if (geteuid() != 0) GTEST_SKIP() << "needs root, to be somebody else";
  Workspace tree({{"Makefile", "include rules/more.mk\n"},
                  {"rules/more.mk", "gauge: gauge.c\n"},
                  {"gauge.c", "int main(void) { return 0; }\n"}});
  auto run_as_nobody = [&](const std::string& arguments) {
    return tree.shell(
        fmt::format("mkdir -p /tmp/yc-nobody-$$ && chown 65534 /tmp/yc-nobody-$$ && setpriv --reuid=65534 "
                    "--regid=65534 --clear-groups env XDG_STATE_HOME=/tmp/yc-nobody-$$ {} -C {} {}; s=$?; rm "
                    "-rf /tmp/yc-nobody-$$; exit $s",
                    YELLOW_COMPASS_PROGRAM, tree.root(), arguments));
  };
  ASSERT_EQ(tree.shell("chown -R 65534 . && chown 0 rules/more.mk && chmod 600 rules/more.mk").status, 0);
  Outcome refused = run_as_nobody("move gauge.c lib/gauge.c");
  EXPECT_EQ(refused.status, 3) << refused.told;
  EXPECT_THAT(refused.err, HasSubstr("rules/more.mk"));
  EXPECT_THAT(refused.err, HasSubstr("cannot be read"));
  ASSERT_EQ(tree.shell("chmod 644 rules/more.mk && chown 0 rules && chmod 700 rules").status, 0);
  refused = run_as_nobody("move gauge.c lib/gauge.c");
  EXPECT_EQ(refused.status, 3) << refused.told;
  EXPECT_THAT(refused.err, HasSubstr("cannot be looked into"));
  Outcome accepted = run_as_nobody("move gauge.c lib/gauge.c --accept-unseen");
  EXPECT_EQ(accepted.status, 0) << accepted.told;
  EXPECT_THAT(accepted.out, Not(HasSubstr("verified")));
  EXPECT_THAT(accepted.out, HasSubstr("without proof"));
}

}  // namespace
}  // namespace yc::test
