// Trees that a clone or an archive could bring along, made to have the program write, overwrite or delete
// elsewhere. Beside each tree lies a folder with files that nobody may touch.
#include <fmt/format.h>
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <atomic>
#include <filesystem>
#include <fstream>
#include <regex>
#include <thread>

#include "support/own_state.h"
#include "support/scratch_folder.h"
#include "support/workspace.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;
using ::testing::AnyOf;
using ::testing::HasSubstr;

const Files kGauge = {{"Makefile", "gauge: gauge.c\n\tcc -o $@ gauge.c\n"},
                      {"gauge.c", "int main(void) { return 0; }\n"}};

class Attack : public ::testing::Test {
 protected:
  void SetUp() override {
    outside_.write("journal", "a letter\n");
    outside_.write("original-0", "the only copy\n");
    outside_.write("lock", "combination 4 8 15\n");
    outside_.write("index", "of first lines\n");
    outside_.write("deep/file", "tide tables\n");
    before_ = outside_.contents();
  }
  void TearDown() override { EXPECT_EQ(outside_.contents(), before_) << "something outside was touched"; }

  // Every command that could write. None may crash, and what each says is not looked at.
  void try_all() {
    for (const char* command :
         {"history", "undo", "resume", "move gauge.c lib/gauge.c", "undo", "resume", "check"}) {
      Outcome outcome = tree_.shell(fmt::format("timeout 20 {} {}", YELLOW_COMPASS_PROGRAM, command));
      EXPECT_LT(outcome.status, 5) << outcome.told;
    }
  }
  void link(const std::string& target, const std::string& path) {
    fs::create_directories((fs::path(tree_.root()) / path).parent_path());
    fs::create_symlink(target, fs::path(tree_.root()) / path);
  }

  ScratchFolder outside_;
  std::map<std::string, std::string> before_;
  Workspace tree_{kGauge};
};

TEST_F(Attack, state_folder_that_is_a_link) {
  link(outside_.path(), ".yellow-compass");
  try_all();
  EXPECT_TRUE(tree_.exists("gauge.c")) << "the move is refused";
}

TEST_F(Attack, folder_of_journals_that_is_a_link) {
  link(outside_.path(), ".yellow-compass/journals");
  try_all();
  EXPECT_TRUE(tree_.exists("gauge.c"));
}

TEST_F(Attack, journal_that_is_a_link_to_a_folder) {
  link(outside_.path(), ".yellow-compass/journals/000001");
  try_all();
}

// Also in a state folder that is the user's own: somebody else put the link there later.
TEST_F(Attack, link_in_a_state_folder_of_ones_own) {
  ASSERT_EQ(tree_.run({"move", "gauge.c", "core/"}).status, 0);
  ASSERT_EQ(tree_.run({"undo"}).status, 0);
  link(outside_.path(), ".yellow-compass/journals/000007");
  fs::remove(tree_.root() + "/.yellow-compass/lock");
  link(outside_.path() + "/lock", ".yellow-compass/lock");
  try_all();
  EXPECT_TRUE(tree_.exists("gauge.c"));
}

TEST_F(Attack, lock_that_is_a_link_or_another_name) {
  link(outside_.path() + "/lock", ".yellow-compass/lock");
  try_all();
  fs::remove(tree_.root() + "/.yellow-compass/lock");
  fs::create_hard_link(outside_.path() + "/lock", tree_.root() + "/.yellow-compass/lock");
  try_all();
  fs::remove(tree_.root() + "/.yellow-compass/lock");
}

TEST_F(Attack, original_that_is_a_link) {
  ASSERT_EQ(tree_.run({"move", "gauge.c", "core/"}).status, 0);
  std::string journal = tree_.root() + "/.yellow-compass/journals/000001/";
  for (const char* name : {"original-0", "original-1"}) {
    if (!fs::remove(journal + name)) continue;
    fs::create_symlink(outside_.path() + "/original-0", journal + name);
  }
  auto moved = tree_.contents();
  Outcome undone = tree_.run({"undo"});
  EXPECT_EQ(undone.status, 3) << undone.told;
  EXPECT_EQ(tree_.contents(), moved);
}

TEST_F(Attack, folder_on_the_way_that_became_a_link) {
  ASSERT_EQ(tree_.run({"move", "gauge.c", "deep/gauge.c"}).status, 0);
  fs::rename(tree_.root() + "/deep", tree_.root() + "/elsewhere");
  link(outside_.path() + "/deep", "deep");
  Outcome undone = tree_.run({"undo"});
  EXPECT_EQ(undone.status, 3) << undone.told;
  Outcome moved = tree_.run({"move", "elsewhere/gauge.c", "deep/x.c"});
  EXPECT_NE(moved.status, 0) << moved.told;
}

TEST_F(Attack, repository_that_is_a_link) {
  ASSERT_EQ(
      tree_.shell(fmt::format("git init -q '{0}/repo' && git -C '{0}/repo' add -A", outside_.path())).status,
      0);
  before_ = outside_.contents();
  auto state = [&] {
    return tree_
        .shell(
            fmt::format("find '{0}/repo/.git' | sort; git -C '{0}/repo' status --porcelain", outside_.path()))
        .out;
  };
  std::string known = state();
  link(outside_.path() + "/repo/.git", ".git");
  Outcome moved = tree_.run({"move", "gauge.c", "lib/"});
  EXPECT_EQ(moved.status, 3) << moved.told;
  EXPECT_THAT(moved.err, HasSubstr("symbolic link"));
  try_all();
  EXPECT_EQ(state(), known);
}

// A `.git` file that leads to a repository which knows nothing of this tree.
TEST_F(Attack, repository_of_somebody_else) {
  ASSERT_EQ(tree_.shell(fmt::format("git init -q '{0}/repo'", outside_.path())).status, 0);
  before_ = outside_.contents();
  auto state = [&] { return tree_.shell(fmt::format("find '{0}/repo/.git' | sort", outside_.path())).out; };
  std::string known = state();
  tree_.write(".git", "gitdir: " + outside_.path() + "/repo/.git\n");
  Outcome moved = tree_.run({"move", "gauge.c", "lib/"});
  EXPECT_EQ(moved.status, 3) << moved.told;
  EXPECT_THAT(moved.err, HasSubstr("does not know of this folder"));
  try_all();
  EXPECT_EQ(state(), known);
}

TEST_F(Attack, index_that_is_a_link) {
  ASSERT_EQ(tree_
                .shell("git init -q . && git add -A && mv .git/index ../kept-index-$$ && mv ../kept-index-$$ "
                       ".git/real")
                .status,
            0);
  fs::create_symlink(outside_.path() + "/index", tree_.root() + "/.git/index");
  Outcome moved = tree_.run({"move", "gauge.c", "lib/"});
  EXPECT_EQ(moved.status, 3) << moved.told;
  try_all();
}

TEST_F(Attack, submodule_whose_data_are_somewhere_else) {
  ASSERT_EQ(tree_
                .shell(fmt::format(
                    "git init -q . && git add -A && git init -q '{0}/repo' && git -C '{0}/repo' config "
                    "core.worktree ../elsewhere",
                    outside_.path()))
                .status,
            0);
  std::string known = tree_.shell("cat '" + outside_.path() + "/repo/.git/config'").out;
  before_ = outside_.contents();
  tree_.write("part/.git", "gitdir: " + outside_.path() + "/repo/.git\n");
  tree_.write("part/a.txt", "x\n");
  Outcome moved = tree_.run({"move", "part", "parts/one"});
  EXPECT_EQ(moved.status, 3) << moved.told;
  EXPECT_EQ(tree_.shell("cat '" + outside_.path() + "/repo/.git/config'").out, known);
}

TEST_F(Attack, patch_is_not_written_through_a_link) {
  link(outside_.path() + "/journal", "plan.patch");
  Outcome moved = tree_.run({"move", "gauge.c", "lib/", "--patch", "plan.patch"});
  EXPECT_EQ(moved.status, 2) << moved.told;
}

// What a journal of another user, of an older version or of nobody says is not done.
TEST_F(Attack, journals_that_came_with_the_tree) {
  const std::string body =
      R"({"command":"x","time":0,"requested":[],"items":[{"from":"gauge.c","to":"gone.c","inode":1,"before":"x"}],)"
      R"("nested":[],"made":[],"removed":[],"made_files":[{"path":"Makefile","hash":"y"}],"dropped_files":[]})";
  for (const char* head :
       {"yellow-compass journal 2 0123456789abcdef0123456789abcdef\n",
        "yellow-compass journal 3 0123456789abcdef0123456789abcdef\n", "yellow-compass journal 4 0123\n"}) {
    tree_.write(".yellow-compass/journals/000001/journal", head + body + "\n");
    tree_.write(".yellow-compass/journals/000001/done", "");
    auto before = tree_.contents();
    for (const char* command : {"undo", "resume", "history"}) {
      Outcome outcome = tree_.run({command});
      EXPECT_EQ(outcome.status, 3) << outcome.told;
      EXPECT_THAT(outcome.err, AnyOf(HasSubstr("not believed"), HasSubstr("not written by you")));
      EXPECT_THAT(outcome.err, HasSubstr("move it"));
    }
    EXPECT_EQ(tree_.run({"move", "gauge.c", "lib/"}).status, 3);
    EXPECT_EQ(tree_.contents(), before);
  }
}

TEST_F(Attack, journal_signed_by_another_user) {
  ASSERT_EQ(tree_
                .shell(fmt::format("XDG_STATE_HOME={}/state {} move gauge.c lib/", tree_.root() + "-other",
                                   YELLOW_COMPASS_PROGRAM))
                .status,
            0);
  auto before = tree_.contents();
  Outcome undone = tree_.run({"undo"});
  EXPECT_EQ(undone.status, 3) << undone.told;
  EXPECT_THAT(undone.err, HasSubstr("was not made by you on this machine"));
  EXPECT_EQ(tree_.contents(), before);
  fs::remove_all(tree_.root() + "-other");
}

TEST_F(Attack, journal_of_another_tree_of_ones_own) {
  Workspace other({{"gauge.c", "int main(void) { return 1; }\n"}, {"Makefile", "gauge: gauge.c\n"}});
  ASSERT_EQ(other.run({"move", "gauge.c", "lib/"}).status, 0);
  ASSERT_EQ(tree_.run({"move", "gauge.c", "core/"}).status, 0);
  fs::remove_all(tree_.root() + "/.yellow-compass/journals");
  fs::copy(other.root() + "/.yellow-compass/journals", tree_.root() + "/.yellow-compass/journals",
           fs::copy_options::recursive);
  Outcome undone = tree_.run({"undo"});
  EXPECT_EQ(undone.status, 3) << undone.told;
}

TEST_F(Attack, state_folder_that_version_control_tracks) {
  ASSERT_EQ(tree_.run({"move", "gauge.c", "lib/"}).status, 0);
  ASSERT_EQ(
      tree_
          .shell("git init -q . && git add -f .yellow-compass && mkdir -p sub && mv .yellow-compass sub/ && "
                 "git add -f sub")
          .status,
      0);
  Outcome undone = tree_.run({"-C", "sub", "undo"});
  EXPECT_NE(undone.status, 0) << undone.told;
}

TEST_F(Attack, state_folder_of_another_user) {
  if (geteuid() != 0) GTEST_SKIP() << "needs root";
  ASSERT_EQ(tree_.run({"move", "gauge.c", "lib/"}).status, 0);
  ASSERT_EQ(tree_.shell("chown -R 12345 .yellow-compass").status, 0);
  Outcome undone = tree_.run({"undo"});
  EXPECT_EQ(undone.status, 3) << undone.told;
  EXPECT_THAT(undone.err, HasSubstr("another user"));
}

TEST_F(Attack, key_in_the_tree_is_no_key) {
  Outcome moved =
      tree_.shell(fmt::format("XDG_STATE_HOME=$PWD/state {} move gauge.c lib/", YELLOW_COMPASS_PROGRAM));
  EXPECT_EQ(moved.status, 3) << moved.told;
  EXPECT_THAT(moved.err, HasSubstr("lies in the tree"));
}

// What waits for another program is never opened as a file.
class Special : public Attack, public ::testing::WithParamInterface<const char*> {};

TEST_P(Special, file_is_told_and_nothing_waits) {
  std::string path = GetParam();
  ASSERT_EQ(tree_.shell("git init -q . && git add -A").status, 0);
  ASSERT_EQ(tree_.shell(fmt::format("mkdir -p $(dirname {0}) && rm -rf {0} && mkfifo {0}", path)).status, 0);
  for (const char* command : {"survey", "check", "history", "undo", "move gauge.c lib/", "undo", "resume"}) {
    Outcome outcome = tree_.shell(fmt::format("timeout 20 {} {}", YELLOW_COMPASS_PROGRAM, command));
    EXPECT_LT(outcome.status, 5) << outcome.told;
  }
}

INSTANTIATE_TEST_SUITE_P(Pipes, Special,
                         ::testing::Values("yellow-compass.toml", ".gitignore", "lib/.gitignore", "Makefile",
                                           "sub/Makefile", "CMakeLists.txt", "gauge.c", ".git/config",
                                           ".git/HEAD", ".git/index", ".git/info/exclude",
                                           ".git/yellow-compass/lock", ".git/yellow-compass/signature",
                                           ".git/yellow-compass/journals/000001/journal", "package.json",
                                           "a.py", ".gitattributes"),
                         [](const auto& param) {
                           std::string name = param.param;
                           for (char& c : name) c = std::isalnum(static_cast<unsigned char>(c)) ? c : '_';
                           return name;
                         });

TEST_F(Attack, settings_of_a_repository_that_take_in_a_pipe) {
  ASSERT_EQ(
      tree_
          .shell(
              "git init -q . && git add -A && mkfifo .git/more && printf '[include]\\n\\tpath = more\\n' >> "
              ".git/config")
          .status,
      0);
  Outcome moved = tree_.shell(fmt::format("timeout 20 {} move gauge.c lib/", YELLOW_COMPASS_PROGRAM));
  EXPECT_EQ(moved.status, 3) << moved.told;
  EXPECT_THAT(moved.err, HasSubstr("is a pipe"));
}

// A second process puts a link in the place of a folder, and the folder back, as fast as it can.
TEST_F(Attack, folder_that_becomes_a_link_again_and_again) {
  for (int i = 0; i < 12; ++i) tree_.write(fmt::format("src/f{}.txt", i), fmt::format("water {}\n", i));
  std::string folder = tree_.root() + "/src", aside = tree_.root() + "-aside";
  std::atomic<bool> stop = false;
  std::thread other([&] {
    while (!stop) {
      std::error_code ignored;
      fs::rename(folder, aside, ignored);
      fs::create_symlink(outside_.path() + "/deep", folder, ignored);
      fs::remove(folder, ignored);
      fs::rename(aside, folder, ignored);
    }
  });
  for (int i = 0; i < 30; ++i) {
    (void)tree_.run({"move", "src/f1.txt", "src/deep/er/f1.txt"});
    (void)tree_.run({"move", "src", "lib"});
    (void)tree_.run({"undo"});
    (void)tree_.run({"move", "lib", "src"});
  }
  stop = true;
  other.join();
  (void)tree_.run({"undo"});
  Outcome all = tree_.shell(fmt::format(
      "cat $(find . '{}' -name 'f*.txt*' -not -path './.yellow-compass/*') | sort -u | wc -l", aside));
  EXPECT_EQ(all.out, "12\n") << all.told;
  fs::remove_all(aside);
}

// By the system calls: where the program writes, and that it starts nothing.
TEST_F(Attack, calls_name_nothing_outside_and_start_nothing) {
  ASSERT_EQ(tree_.shell("git init -q . && git add -A").status, 0);
  if (tree_.shell("strace -o /dev/null true").status != 0) GTEST_SKIP() << "strace cannot trace here";
  std::string log = outside_.path() + ".strace";
  for (const char* command : {"move gauge.c lib/gauge.c", "history", "undo", "check"}) {
    Outcome run = tree_.shell(fmt::format("strace -f -y -s 4096 -e trace=%file,%process -o {} {} {}", log,
                                          YELLOW_COMPASS_PROGRAM, command));
    ASSERT_EQ(run.status < 3, true) << run.told;
    std::ifstream lines(log);
    std::size_t started = 0;
    for (std::string line; std::getline(lines, line);) {
      if (line.find("execve(") != std::string::npos) ++started;
      bool opens = line.find(" open") != std::string::npos;
      bool writes =
          opens ? line.find("O_WRONLY") != std::string::npos || line.find("O_RDWR") != std::string::npos ||
                      line.find("O_CREAT") != std::string::npos
                : std::regex_search(
                      line, std::regex(" (rename|link|symlink|unlink|mkdir|rmdir|mknod|truncate|chmod|"
                                       "chown|fchmodat|fchownat|utimens)"));
      if (!writes || line.find(" readlink") != std::string::npos) continue;
      bool is_inside =
          line.find(tree_.root()) != std::string::npos || line.find("/dev/null") != std::string::npos;
      // The user's own folders, for state and for the cache, are made once.
      bool is_users = line.find(fs::path(own_state()).parent_path().string()) != std::string::npos;
      EXPECT_TRUE(is_inside || is_users) << line;
      EXPECT_TRUE(is_users || line.find("AT_FDCWD") == std::string::npos)
          << "a tree is written through an open folder only: " << line;
    }
    EXPECT_EQ(started, 1U) << command;
  }
  fs::remove(log);
}

TEST_F(Attack, sheet_that_is_no_file) {
  EXPECT_EQ(tree_.run({"move", "--sheet", "."}).status, 2);
  EXPECT_EQ(tree_.shell(fmt::format("mkfifo pipe && timeout 5 {} move --sheet pipe", YELLOW_COMPASS_PROGRAM))
                .status,
            124)
      << "a pipe that the user names himself is waited for, as < would";
}

}  // namespace
}  // namespace yc::test
