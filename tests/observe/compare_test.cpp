// Two builds compared: what the move explains is no difference, and the rest is.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "observe/compare.h"
#include "tree/memory_tree.h"

namespace yc {
namespace {

using Kind = Difference::Kind;

std::vector<RelPath> paths(const std::vector<std::string>& texts) {
  std::vector<RelPath> out;
  for (const std::string& text : texts) out.push_back(RelPath::from_normal(text));
  std::sort(out.begin(), out.end());
  return out;
}

ObservedProcess process(const std::string& program, const std::vector<std::string>& arguments,
                        const std::vector<std::string>& read, int status = 0) {
  ObservedProcess out;
  out.is_started = true;
  out.program = program;
  out.arguments = arguments;
  out.arguments.insert(out.arguments.begin(), program);
  out.folder = RelPath();
  out.read = paths(read);
  out.status = status;
  return out;
}

class Compare : public ::testing::Test {
 protected:
  Compare() {
    for (const char* name : {"src/a.c", "src/b.c", "inc/x.h", "old/x.h", "src/only.c"}) tree_.write(name, "");
  }
  // One difference a line: kind, path before, path after; "!" in front if it breaks.
  std::vector<std::string> differences(const std::string& from, const std::string& to) {
    auto moves = MoveSet::make(tree_, {{RelPath::from_normal(from), RelPath::from_normal(to)}});
    EXPECT_TRUE(moves) << moves.error().message;
    std::vector<std::string> out;
    for (const Difference& one : compare_observations(before_, after_, *moves, {}))
      out.push_back((one.breaks ? "!" : "") + std::to_string(static_cast<int>(one.kind)) + " " +
                    one.before.str() + " " + one.after.str());
    return out;
  }
  static std::string line(Kind kind, const std::string& rest) {
    return std::to_string(static_cast<int>(kind)) + " " + rest;
  }
  MemoryTree tree_;
  Observation before_, after_;
};

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;

TEST_F(Compare, what_moves_is_read_at_its_new_place) {
  before_.processes = {process("/usr/bin/cc1", {"src/a.c"}, {"src/a.c", "inc/x.h"})};
  after_.processes = {process("/usr/bin/cc1", {"src/a.c"}, {"src/a.c", "lib/x.h"})};
  EXPECT_THAT(differences("inc/x.h", "lib/x.h"), IsEmpty());
}

TEST_F(Compare, header_that_another_one_answers_for_is_told_at_both) {
  before_.processes = {process("/usr/bin/cc1", {"src/a.c"}, {"src/a.c", "inc/x.h"})};
  after_.processes = {process("/usr/bin/cc1", {"src/a.c"}, {"src/a.c", "old/x.h"})};
  EXPECT_THAT(differences("inc/x.h", "lib/x.h"),
              ElementsAre("!" + line(Kind::not_read, "inc/x.h lib/x.h"),
                          "!" + line(Kind::newly_read, "old/x.h old/x.h")));
}

// A script that the plan edited is newer than what was made of it, so that is made again.
TEST_F(Compare, what_only_makes_scripts_anew_is_told_and_holds_nothing_back) {
  before_.processes = {process("/usr/bin/make", {}, {})};
  after_.processes = {process("/usr/bin/make", {}, {}), process("/usr/bin/autom4te", {}, {"old/x.h"})};
  EXPECT_THAT(differences("inc/x.h", "lib/x.h"), ElementsAre(line(Kind::newly_read, "old/x.h old/x.h")));
  after_.processes.push_back(process("/usr/bin/cc1", {}, {"old/x.h"}));
  EXPECT_THAT(differences("inc/x.h", "lib/x.h"),
              ElementsAre("!" + line(Kind::newly_read, "old/x.h old/x.h")));
}

// Both headers are read before and after, only one source takes the other one now.
TEST_F(Compare, one_source_that_takes_another_header_is_seen_although_others_read_both) {
  before_.processes = {process("/usr/bin/cc1", {"src/a.c"}, {"src/a.c", "inc/x.h"}),
                       process("/usr/bin/cc1", {"src/b.c"}, {"src/b.c", "old/x.h"}),
                       process("/usr/bin/cc1", {"src/only.c"}, {"src/only.c", "inc/x.h"})};
  after_.processes = {process("/usr/bin/cc1", {"src/a.c"}, {"src/a.c", "old/x.h"}),
                      process("/usr/bin/cc1", {"src/b.c"}, {"src/b.c", "old/x.h"}),
                      process("/usr/bin/cc1", {"lib/only.c"}, {"lib/only.c", "inc/x.h"})};
  EXPECT_THAT(differences("src/only.c", "lib/only.c"),
              ElementsAre("!" + line(Kind::read_otherwise, "inc/x.h "),
                          "!" + line(Kind::read_otherwise, " old/x.h")));
}

// Go's compiler is not started for what its cache has from the build before.
TEST_F(Compare, work_that_a_cache_spares_is_no_difference) {
  ObservedProcess go = process("/usr/bin/go", {"build"}, {"src/a.c", "src/b.c", "src/only.c"});
  before_.processes = {go, process("/usr/lib/go/compile", {"src/a.c"}, {"src/a.c", "src/b.c"})};
  after_.processes = {process("/usr/bin/go", {"build"}, {"src/a.c", "src/b.c", "lib/only.c"}),
                      process("/usr/lib/go/compile", {"src/a.c"}, {"src/a.c"})};
  EXPECT_THAT(differences("src/only.c", "lib/only.c"), IsEmpty());
}

TEST_F(Compare, products_follow_their_sources_and_folders) {
  before_.made =
      paths({"src/a.o", "src/only.o", "build/src/only.txt", "bin/only", "bin/gone", "out/page-1a2b3c4d.js"});
  after_.made = paths({"src/a.o", "lib/only.o", "build/lib/only.txt", "bin/only", "out/page-9f8e7d6c.js"});
  EXPECT_THAT(differences("src/only.c", "lib/only.c"),
              ElementsAre("!" + line(Kind::not_made, "bin/gone "),
                          line(Kind::made_elsewhere, "out/page-1a2b3c4d.js out/page-9f8e7d6c.js")));
}

// As configure scripts make and take away to try a compiler.
TEST_F(Compare, programs_that_come_and_go_are_the_same_whatever_numbers_they_bear) {
  for (auto [of, name] : {std::pair(&before_, "try4711"), std::pair(&after_, "try4810")}) {
    of->processes = {process("/usr/bin/ld", {"-o", name}, {}), process(name, {}, {})};
    of->processes.front().wrote = paths({name});
  }
  EXPECT_THAT(differences("src/a.c", "lib/a.c"), IsEmpty());
  before_.made = paths({"try4711"});
  after_.made = paths({"try4810"});
  EXPECT_THAT(differences("src/a.c", "lib/a.c"), Contains("!" + line(Kind::not_run, "try4711 ")))
      << "what stays is known by its name";
}

TEST_F(Compare, tests_that_are_not_run_or_end_otherwise_are_told) {
  before_.processes = {process("bin/first_test", {}, {}), process("bin/second_test", {}, {})};
  after_.processes = {process("bin/first_test", {}, {}, 1)};
  EXPECT_THAT(differences("inc/x.h", "lib/x.h"),
              ElementsAre("!" + line(Kind::ended_otherwise, "bin/first_test bin/first_test"),
                          "!" + line(Kind::not_run, "bin/second_test ")));
}

// A shell that is split off from a script runs no program of its own.
TEST_F(Compare, what_is_split_off_from_a_program_is_none) {
  before_.processes = {process("bin/configure", {}, {}), process("bin/configure", {}, {}, 127)};
  before_.processes[1].is_started = false;
  after_.processes = {process("bin/configure", {}, {})};
  EXPECT_THAT(differences("inc/x.h", "lib/x.h"), IsEmpty());
}

TEST_F(Compare, what_the_plan_makes_is_expected) {
  before_.processes = {process("/usr/bin/make", {}, {})};
  after_.processes = {process("/usr/bin/make", {}, {"lib/Makefile"})};
  auto moves = MoveSet::make(tree_, {{RelPath::from_normal("inc/x.h"), RelPath::from_normal("lib/x.h")}});
  ASSERT_TRUE(moves);
  FileChanges changes;
  changes.made[RelPath::from_normal("lib/Makefile")] = "";
  EXPECT_TRUE(compare_observations(before_, after_, *moves, changes).empty());
  EXPECT_EQ(compare_observations(before_, after_, *moves, {}).size(), 1u);
}

TEST(Warnings, only_what_is_new_is_told_and_once) {
  auto found =
      new_warnings("a.c:3: warning: unused variable 'x'\n",
                   "lib/a.c:3: warning: unused variable 'x'\nb.c:1: Warning: odd\nc.c:1: Warning: odd\nok\n");
  ASSERT_EQ(found.size(), 1u);
  EXPECT_EQ(found.front().command, "b.c:1: Warning: odd");
  EXPECT_FALSE(found.front().breaks);
}

}  // namespace
}  // namespace yc
