// undo, resume, history and version control's index, through the built program.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <filesystem>
#include <nlohmann/json.hpp>

#include "support/workspace.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;
using ::testing::HasSubstr;
using ::testing::StartsWith;

const Files kStation = {{"Makefile", "station: main.o gauge.o\n\t$(CC) -o $@ $^\n"},
                        {"main.c", "#include \"gauge.h\"\nint main(void) { return gauge(); }\n"},
                        {"gauge.c", "#include \"gauge.h\"\nint gauge(void) { return 0; }\n"},
                        {"gauge.h", "int gauge(void);\n"},
                        {"NOTES", "low water\n"}};

class Recovery : public ::testing::Test {
 protected:
  Recovery() : work_(kStation) {}
  Outcome run(const std::string& arguments) {
    return work_.shell(std::string("'") + YELLOW_COMPASS_PROGRAM + "' " + arguments);
  }
  std::string git(const std::string& arguments) {
    return work_.shell("git -c user.name=t -c user.email=t@t " + arguments).out;
  }
  void start_repository() {
    git("init -q .");
    git("add -A");
    git("commit -qm start");
  }
  std::string journal(const std::string& name) const { return ".yellow-compass/journals/000001/" + name; }
  Workspace work_;
};

TEST_F(Recovery, several_levels_are_undone_one_by_one) {
  auto before = work_.contents();
  ASSERT_EQ(run("move gauge.h include/").status, 0);
  auto between = work_.contents();
  ASSERT_EQ(run("move main.c src/").status, 0);
  EXPECT_EQ(run("undo").status, 0);
  EXPECT_EQ(work_.contents(), between);
  EXPECT_EQ(run("undo").status, 0);
  EXPECT_EQ(work_.contents(), before);
  Outcome none = run("undo");
  EXPECT_EQ(none.status, 2);
  EXPECT_THAT(none.err, HasSubstr("there is no move to undo"));
}

TEST_F(Recovery, history_tells_each_move_and_gives_its_diff) {
  EXPECT_EQ(run("history").out, "No move was made here yet.\n");
  ASSERT_EQ(run("move gauge.h include/").status, 0);
  ASSERT_EQ(run("move NOTES doc/").status, 0);
  ASSERT_EQ(run("undo").status, 0);
  auto list = nlohmann::json::parse(run("history --format json").out)["journals"];
  ASSERT_EQ(list.size(), 2U);
  EXPECT_EQ(list[0]["state"], "undone");
  EXPECT_EQ(list[0]["moves"][0]["to"], "doc/NOTES");
  EXPECT_EQ(list[1]["state"], "stands");
  EXPECT_THAT(std::string(list[1]["command"]), HasSubstr("move gauge.h include/"));
  EXPECT_THAT(run("history").out, HasSubstr("1 file moved"));
  EXPECT_THAT(run("history --patch 1").out, HasSubstr("rename to include/gauge.h"));
  EXPECT_EQ(run("history --patch 7").status, 2);
}

TEST_F(Recovery, undo_names_every_file_whose_later_work_it_would_destroy) {
  ASSERT_EQ(run("move gauge.h gauge.c part/").status, 0);
  work_.write("Makefile", "all:\n");
  work_.write("part/gauge.h", "int other(void);\n");
  auto before = work_.contents();
  Outcome refused = run("undo");
  EXPECT_EQ(refused.status, 3);
  EXPECT_THAT(refused.err, HasSubstr("Makefile"));
  EXPECT_THAT(refused.err, HasSubstr("part/gauge.h"));
  EXPECT_EQ(work_.contents(), before);
}

// As a crash leaves it right before the move is marked as done.
TEST_F(Recovery, every_command_tells_of_a_move_that_was_not_finished) {
  ASSERT_EQ(run("move gauge.h include/").status, 0);
  fs::remove(work_.root() + "/" + journal("done"));
  for (const char* command : {"survey", "check", "refs main.c"})
    EXPECT_THAT(run(command).err, HasSubstr("was not finished")) << command;
  Outcome refused = run("move main.c src/");
  EXPECT_EQ(refused.status, 3);
  EXPECT_THAT(refused.err, HasSubstr("yellow-compass resume on to the new one"));
  EXPECT_EQ(run("resume").status, 0);
  EXPECT_EQ(run("move main.c src/").status, 0);
  EXPECT_EQ(run("resume").status, 2);
}

TEST_F(Recovery, file_that_somebody_changed_meanwhile_is_kept_beside) {
  auto before = work_.contents();
  ASSERT_EQ(run("move gauge.h gauge.c include/").status, 0);
  fs::remove(work_.root() + "/" + journal("done"));
  work_.write("Makefile", "# somebody was here\n");
  work_.write("gauge.h", "// and here\n");
  Outcome undone = run("undo");
  EXPECT_EQ(undone.status, 0) << undone.told;
  EXPECT_THAT(undone.out, HasSubstr("Makefile.kept-1"));
  EXPECT_THAT(undone.out, HasSubstr("gauge.h.kept-1"));
  auto after = work_.contents();
  EXPECT_THAT(after["Makefile.kept-1"], HasSubstr("somebody was here"));
  EXPECT_THAT(after["gauge.h.kept-1"], HasSubstr("and here"));
  after.erase("Makefile.kept-1");
  after.erase("gauge.h.kept-1");
  EXPECT_EQ(after, before);
}

TEST_F(Recovery, status_shows_renames_and_nothing_else_is_staged) {
  start_repository();
  work_.write("NOTES", "high water\n");
  ASSERT_EQ(run("move gauge.c gauge.h part/").status, 0);
  EXPECT_EQ(git("diff --cached --name-status -M100%"),
            "R100\tgauge.c\tpart/gauge.c\nR100\tgauge.h\tpart/gauge.h\n");
  EXPECT_EQ(git("diff --name-only"), "Makefile\nNOTES\nmain.c\n");
  ASSERT_EQ(run("undo").status, 0);
  EXPECT_EQ(git("diff --cached --name-status"), "");
  ASSERT_EQ(run("move gauge.c gauge.h part/ --no-stage").status, 0);
  EXPECT_EQ(git("diff --cached --name-status"), "");
}

TEST_F(Recovery, swap_of_tracked_files_is_a_swap_in_the_index_and_can_be_undone) {
  start_repository();
  std::string before = git("ls-files -s");
  work_.write("sheet", "main.c -> gauge.c\ngauge.c -> main.c\n");
  ASSERT_EQ(run("move --sheet sheet").status, 0);
  EXPECT_NE(git("ls-files -s"), before);
  ASSERT_EQ(run("undo").status, 0);
  EXPECT_EQ(git("ls-files -s"), before);
}

TEST_F(Recovery, merge_that_is_not_finished_matters_only_where_it_conflicts) {
  start_repository();
  git("checkout -qb other");
  work_.write("NOTES", "one\n");
  git("commit -qam one");
  git("checkout -q -");
  work_.write("NOTES", "two\n");
  git("commit -qam two");
  git("merge -q other");
  Outcome refused = run("move NOTES doc/");
  EXPECT_EQ(refused.status, 3) << refused.told;
  EXPECT_THAT(refused.err, HasSubstr("is in conflict"));
  EXPECT_EQ(run("move gauge.h include/").status, 0);
}

TEST_F(Recovery, index_that_another_program_holds_is_waited_for_by_the_user) {
  start_repository();
  auto before = work_.contents();
  work_.write(".git/index.lock", "");
  Outcome refused = run("move gauge.h include/");
  EXPECT_EQ(refused.status, 3);
  EXPECT_THAT(refused.err, HasSubstr("another program holds the index"));
  EXPECT_EQ(work_.contents(), before);
  EXPECT_TRUE(fs::exists(work_.root() + "/.git/index.lock")) << "it is somebody else's";
}

TEST_F(Recovery, move_to_where_version_control_ignores_it_is_refused_with_the_rule) {
  start_repository();
  work_.write(".gitignore", "*.o\n/out/\n");
  work_.write("lib/.gitignore", "# local\n*.h\n");
  auto before = work_.contents();
  Outcome refused = run("move gauge.h lib/");
  EXPECT_EQ(refused.status, 3);
  EXPECT_THAT(refused.err, HasSubstr("lib/.gitignore:2 (*.h)"));
  Outcome folder = run("move NOTES out/deep/");
  EXPECT_EQ(folder.status, 3);
  EXPECT_THAT(folder.err, HasSubstr(".gitignore:2 (/out/)"));
  EXPECT_EQ(work_.contents(), before);
}

TEST_F(Recovery, folder_with_a_repository_of_its_own_is_not_torn_apart) {
  start_repository();
  work_.shell("mkdir -p libs/tide && cd libs/tide && git init -q . && echo x > x.c && git add -A");
  auto before = work_.contents();
  Outcome refused = run("move libs/tide core/");
  EXPECT_NE(refused.status, 0);
  EXPECT_THAT(refused.err, HasSubstr("libs/tide: holds a repository of its own"));
  EXPECT_NE(run("move libs core/libs").status, 0);
  EXPECT_EQ(work_.contents(), before);
}

TEST_F(Recovery, submodule_moves_with_its_entry_its_link_and_the_paths_that_name_it) {
  work_.shell(
      "git init -q ../lib && cd ../lib && echo 'int tide(void) { return 1; }' > tide.c && git add -A && "
      "git -c user.name=t -c user.email=t@t commit -qm lib");
  work_.write("Makefile", "station: main.o gauge.o libs/tide/tide.o\n\t$(CC) -o $@ $^\n");
  start_repository();
  Outcome added = work_.shell("git -c protocol.file.allow=always submodule --quiet add ../lib libs/tide");
  ASSERT_EQ(added.status, 0) << added.told;
  git("commit -qam submodule");
  auto before = work_.contents();
  std::string index = git("ls-files -s");
  Outcome done = run("move libs/tide third/party/tide");
  ASSERT_EQ(done.status, 0) << done.told;
  EXPECT_THAT(work_.read(".gitmodules"), HasSubstr("path = third/party/tide"));
  EXPECT_THAT(git("submodule status"), HasSubstr("third/party/tide"));
  EXPECT_EQ(work_.shell("git -C third/party/tide status --short").out, "");
  EXPECT_EQ(work_.shell("git -C third/party/tide rev-parse --show-toplevel").out,
            work_.root() + "/third/party/tide\n");
  EXPECT_THAT(git("diff --cached --name-status -M"), HasSubstr("R100\tlibs/tide\tthird/party/tide"));
  EXPECT_FALSE(work_.exists("libs"));
  EXPECT_EQ(work_.shell("make -s station && rm -f *.o third/party/tide/*.o station").status, 0);
  ASSERT_EQ(run("undo").status, 0);
  EXPECT_EQ(work_.contents(), before);
  EXPECT_EQ(git("ls-files -s"), index);
  EXPECT_EQ(work_.shell("git -C libs/tide status --short").out, "");
  // One that is not checked out is an empty folder, of which only the index knows.
  git("submodule deinit -q -f libs/tide");
  Outcome absent = run("move libs third/party/libs");
  EXPECT_EQ(absent.status, 3) << absent.told;
  EXPECT_THAT(absent.err, HasSubstr("is a submodule that is not checked out"));
  EXPECT_EQ(git("ls-files -s"), index);
  work_.shell("rm -rf ../lib");
}

TEST_F(Recovery, repository_on_another_file_system_does_not_matter) {
  if (!fs::is_directory("/dev/shm")) GTEST_SKIP() << "there is no second file system here";
  Outcome made = work_.shell(
      "git init -q --separate-git-dir=$(mktemp -d -p /dev/shm)/data . && git add -A && git config "
      "core.worktree $PWD && "
      "git -c user.name=t -c user.email=t@t commit -qm start");
  ASSERT_EQ(made.status, 0) << made.told;
  auto before = work_.contents();
  Outcome done = run("move gauge.h include/");
  EXPECT_EQ(done.status, 0) << done.told;
  EXPECT_TRUE(work_.exists(".yellow-compass/.gitignore"));
  EXPECT_EQ(git("diff --cached --name-status"), "R100\tgauge.h\tinclude/gauge.h\n");
  EXPECT_EQ(run("undo").status, 0);
  EXPECT_EQ(work_.contents(), before);
  work_.shell("rm -rf $(dirname $(git rev-parse --git-dir))");
}

TEST_F(Recovery, links_modes_and_times_travel) {
  work_.shell(
      "ln -s ../gauge.h here; mkdir sub; ln -s ../gauge.h sub/near; chmod 750 gauge.c; touch -d '2001-02-03' "
      "NOTES");
  work_.shell("setfattr -n user.tide -v low Makefile 2>/dev/null || true");
  std::string attributes = work_.shell("getfattr -d Makefile 2>/dev/null || true").out;
  ASSERT_EQ(run("move gauge.h gauge.c NOTES part/").status, 0);
  EXPECT_EQ(work_.shell("readlink sub/near").out, "../part/gauge.h\n");
  EXPECT_EQ(work_.shell("stat -c %a part/gauge.c").out, "750\n");
  EXPECT_THAT(work_.shell("stat -c %y part/NOTES").out, StartsWith("2001-02-03"));
  EXPECT_EQ(work_.shell("getfattr -d Makefile 2>/dev/null || true").out, attributes);
  ASSERT_EQ(run("undo").status, 0);
  EXPECT_EQ(work_.shell("readlink sub/near").out, "../gauge.h\n");
}

TEST_F(Recovery, edited_file_with_several_names_is_told) {
  work_.shell("ln Makefile other.mk");
  Outcome done = run("move gauge.c part/");
  EXPECT_THAT(done.out, HasSubstr("hard links"));
}

TEST_F(Recovery, of_two_programs_at_once_one_is_refused_or_both_move_in_turn) {
  Outcome both = work_.shell(
      std::string("YC='") + YELLOW_COMPASS_PROGRAM +
      "'; (\"$YC\" move gauge.h one/ -q; echo $? > a) & (\"$YC\" move NOTES two/ -q; echo $? > b) & wait");
  std::string statuses = work_.shell("cat a b").out;
  EXPECT_THAT(statuses, ::testing::AnyOf("0\n0\n", "0\n3\n", "3\n0\n")) << both.told;
  EXPECT_EQ(run("check").status, 0);
}

}  // namespace
}  // namespace yc::test
