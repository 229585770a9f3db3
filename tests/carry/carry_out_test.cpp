// Carrying out is all or nothing: every change of the disk is refused once, and the tree must be the old or
// the new one.
#include "carry/carry_out.h"

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>

#include "carry/lock.h"
#include "carry/recovery.h"
#include "support/faulty_disk.h"
#include "support/own_state.h"
#include "support/scratch_folder.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;

void fill(const ScratchFolder& folder) {
  folder.write("Makefile", "station: main.o gauge.o\n\t$(CC) -o $@ $^\n");
  folder.write("main.c", "#include \"gauge.h\"\nint main(void) { return gauge(); }\n");
  folder.write("gauge.c", "#include \"gauge.h\"\nint gauge(void) { return 0; }\n");
  folder.write("gauge.h", "int gauge(void);\n");
  folder.write("a/b/note.txt", "tide\n");
  folder.write("old/low.txt", "water\n");
  fs::permissions(folder.path() + "/gauge.c", fs::perms(0640));
}

std::vector<Move> moves() {
  auto at = [](const char* text) { return RelPath::from_normal(text); };
  return {{at("main.c"), at("gauge.c")},
          {at("gauge.c"), at("main.c")},
          {at("gauge.h"), at("include/deep/gauge.h")},
          {at("a/b/note.txt"), at("note.txt")}};
}

struct Try {
  std::unique_ptr<DiskTree> tree;
  Plan plan;
};

Try planned(const ScratchFolder& folder) {
  Try out;
  out.tree = std::move(*DiskTree::scan(folder.path(), {}));
  PlanOptions options;
  options.changes.made[RelPath::from_normal("gauge.h")] = "#include \"include/deep/gauge.h\"\n";
  options.changes.made[RelPath::from_normal("new/note.txt")] = "tide\n";
  options.changes.dropped.insert(RelPath::from_normal("old/low.txt"));
  out.plan = make_plan(*out.tree, *MoveSet::make(*out.tree, moves()), options);
  EXPECT_TRUE(out.plan.verified);
  return out;
}

StatePlace place_of(const ScratchFolder& folder) {
  return {folder.path(), folder.path() + "/.yellow-compass", own_state()};
}

TEST(CarryOut, moves_and_undo_give_the_tree_back) {
  ScratchFolder folder;
  fill(folder);
  auto before = folder.contents();
  Try one = planned(folder);
  DiskFileSystem disk({folder.path()});
  auto stored = carry_out(disk, *one.tree, one.plan, place_of(folder), {"test", "", true});
  ASSERT_TRUE(stored) << stored.error().message;
  auto after = folder.contents();
  EXPECT_NE(after, before);
  EXPECT_FALSE(after.contains("a")) << "folders that the move emptied go";
  EXPECT_FALSE(after.contains("old")) << "and those that lost their last file";
  EXPECT_TRUE(after["gauge.h"].ends_with("#include \"include/deep/gauge.h\"\n"))
      << "a new file at an old place";
  EXPECT_EQ(after["main.c"].substr(0, 4), "640 ") << "permissions travel with the file";
  ASSERT_TRUE(undo(disk, place_of(folder)));
  EXPECT_EQ(folder.contents(), before);
  EXPECT_FALSE(undo(disk, place_of(folder))) << "there is nothing left to undo";
}

TEST(CarryOut, every_refused_change_leaves_the_old_tree) {
  int total = 0;
  for (int n = 1;; ++n) {
    ScratchFolder folder;
    fill(folder);
    auto before = folder.contents();
    Try one = planned(folder);
    FaultyDisk disk({folder.path()}, n);
    auto stored = carry_out(disk, *one.tree, one.plan, place_of(folder), {"test", "", true});
    if (!disk.has_failed()) {
      total = disk.changes();
      break;
    }
    if (stored) continue;  // the refused change was no part of the move itself, as removing the lock is
    if (folder.contents() == before) continue;
    // The tree may be the new one if only the record of its being done was refused; then undo must work.
    DiskFileSystem whole({folder.path()});
    auto undone = undo(whole, place_of(folder));
    EXPECT_TRUE(undone) << "at change " << n << ": " << stored.error().message;
    EXPECT_EQ(folder.contents(), before) << "at change " << n;
  }
  EXPECT_GT(total, 25);
}

TEST(CarryOut, every_refused_change_of_undo_leaves_the_moved_tree) {
  for (int n = 1;; ++n) {
    ScratchFolder folder;
    fill(folder);
    auto before = folder.contents();
    Try one = planned(folder);
    DiskFileSystem whole({folder.path()});
    ASSERT_TRUE(carry_out(whole, *one.tree, one.plan, place_of(folder), {"test", "", true}));
    auto after = folder.contents();
    FaultyDisk disk({folder.path()}, n);
    auto undone = undo(disk, place_of(folder));
    if (!disk.has_failed()) break;
    auto now = folder.contents();
    EXPECT_TRUE(now == before || now == after)
        << "at change " << n << ": " << (undone ? "" : undone.error().place + " " + undone.error().message);
  }
}

TEST(CarryOut, file_that_changed_since_it_was_read_is_not_touched) {
  ScratchFolder folder;
  fill(folder);
  Try one = planned(folder);
  folder.write("gauge.c", "// somebody else was here\n");
  auto before = folder.contents();
  DiskFileSystem disk({folder.path()});
  auto stored = carry_out(disk, *one.tree, one.plan, place_of(folder), {"test", "", true});
  ASSERT_FALSE(stored);
  EXPECT_EQ(stored.error().failure, Failure::unsettled);
  EXPECT_EQ(folder.contents(), before);
}

TEST(CarryOut, undo_refuses_to_destroy_later_work) {
  ScratchFolder folder;
  fill(folder);
  Try one = planned(folder);
  DiskFileSystem disk({folder.path()});
  ASSERT_TRUE(carry_out(disk, *one.tree, one.plan, place_of(folder), {"test", "", true}));
  folder.write("main.c", "int later_work;\n");
  auto before = folder.contents();
  auto undone = undo(disk, place_of(folder));
  ASSERT_FALSE(undone);
  EXPECT_EQ(undone.error().place, "main.c");
  EXPECT_EQ(folder.contents(), before);
}

TEST(CarryOut, second_program_is_refused) {
  ScratchFolder folder;
  fill(folder);
  Try one = planned(folder);
  DiskFileSystem disk({folder.path()});
  fs::create_directory(place_of(folder).folder);
  auto lock = Lock::take(disk, place_of(folder).folder);
  ASSERT_TRUE(lock);
  auto stored = carry_out(disk, *one.tree, one.plan, place_of(folder), {"test", "", true});
  ASSERT_FALSE(stored);
  EXPECT_NE(stored.error().message.find("is changing this tree"), std::string::npos);
}

TEST(CarryOut, damaged_journal_is_named_and_left_alone) {
  ScratchFolder folder;
  fill(folder);
  Try one = planned(folder);
  DiskFileSystem disk({folder.path()});
  auto stored = carry_out(disk, *one.tree, one.plan, place_of(folder), {"test", "", true});
  ASSERT_TRUE(stored);
  std::ofstream(stored->folder + "/journal", std::ios::app) << "x";
  auto undone = undo(disk, place_of(folder));
  ASSERT_FALSE(undone);
  EXPECT_NE(undone.error().message.find("damaged"), std::string::npos);
  EXPECT_TRUE(fs::exists(stored->folder + "/journal"));
}

}  // namespace
}  // namespace yc::test
