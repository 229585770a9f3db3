// Somebody else writes at the worst moment, and the power goes at every one.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <functional>

#include "carry/carry_out.h"
#include "carry/recovery.h"
#include "support/own_state.h"
#include "support/power_disk.h"
#include "support/scratch_folder.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;

RelPath at(const char* text) {
  return RelPath::from_normal(text);
}

// An edited file that stays, one that moves and is edited, a swap, files that are made and taken away, a
// folder that goes.
struct Example {
  ScratchFolder folder;
  std::unique_ptr<DiskTree> tree;
  Plan plan;
  std::map<std::string, std::string> before;

  Example() {
    folder.write("Makefile", "station: main.o gauge.o\n\t$(CC) -o $@ $^\nnotes: a/b/note.txt\n");
    folder.write("main.c", "#include \"gauge.h\"\nint main(void) { return gauge(); }\n");
    folder.write("gauge.c", "#include \"gauge.h\"\nint gauge(void) { return 0; }\n");
    folder.write("gauge.h", "int gauge(void);\n");
    folder.write("a/b/note.txt", "tide\n");
    folder.write("old/low.txt", "water\n");
    before = folder.contents();
    tree = std::move(*DiskTree::scan(folder.path(), {}));
    PlanOptions options;
    options.changes.made[at("gauge.h")] = "#include \"include/deep/gauge.h\"\n";
    options.changes.dropped.insert(at("old/low.txt"));
    plan = make_plan(*tree,
                     *MoveSet::make(*tree, {{at("main.c"), at("gauge.c")},
                                            {at("gauge.c"), at("main.c")},
                                            {at("gauge.h"), at("include/deep/gauge.h")},
                                            {at("a/b/note.txt"), at("note.txt")}}),
                     options);
    EXPECT_TRUE(plan.verified);
  }
  StatePlace place() const { return {folder.path(), folder.path() + "/.yellow-compass", own_state()}; }
  Result<StoredJournal> carry(FileSystem& disk) const {
    return carry_out(disk, *tree, plan, place(), {"test", "", true});
  }
};

// Lets somebody act before the N-th exchange or renaming.
class MeddledDisk : public DiskFileSystem {
 public:
  MeddledDisk(const std::string& root, int before, std::function<void()> act)
      : DiskFileSystem({root}), before_(before), act_(std::move(act)) {}
  Result<bool> exchange(const std::string& one, const std::string& other) override {
    step();
    return DiskFileSystem::exchange(one, other);
  }
  Status rename_new(const std::string& from, const std::string& to) override {
    step();
    return DiskFileSystem::rename_new(from, to);
  }
  int steps() const { return steps_; }

 private:
  void step() {
    if (++steps_ == before_) act_();
  }
  int before_, steps_ = 0;
  std::function<void()> act_;
};

// Whatever somebody writes, however late, is in the tree afterwards.
TEST(Meddling, what_is_written_at_the_last_moment_stays) {
  for (const char* victim : {"Makefile", "main.c", "gauge.c", "gauge.h", "a/b/note.txt", "old/low.txt"}) {
    for (bool in_place : {true, false}) {
      int steps = 0;
      for (int n = 1; n == 1 || n <= steps; ++n) {
        Example one;
        const std::string fresh = "// written meanwhile\n";
        bool is_written = false;
        MeddledDisk disk(one.folder.path(), n, [&] {
          fs::path path = fs::path(one.folder.path()) / victim;
          if (!fs::exists(path)) return;  // it moved already
          is_written = true;
          if (!in_place) fs::remove(path);
          std::ofstream(path, std::ios::binary) << fresh;
        });
        auto stored = one.carry(disk);
        steps = disk.steps();
        if (!is_written) continue;
        std::size_t found = 0;
        for (const auto& [path, bytes] : one.folder.contents()) found += bytes.ends_with(fresh) ? 1 : 0;
        EXPECT_EQ(found, 1U) << victim << " before step " << n
                             << (stored ? ", carried out" : ": " + stored.error().message);
        ASSERT_FALSE(::testing::Test::HasFailure());
      }
    }
  }
}

TEST(Meddling, file_that_changed_before_it_was_to_be_replaced_is_named_and_the_rest_is_as_it_was) {
  Example one;
  MeddledDisk disk(one.folder.path(), 1, [&] { one.folder.write("Makefile", "station:\n\ttrue\n"); });
  auto stored = one.carry(disk);
  ASSERT_FALSE(stored);
  EXPECT_EQ(stored.error().failure, Failure::unsettled);
  EXPECT_EQ(stored.error().place, "Makefile");
  auto after = one.folder.contents();
  EXPECT_EQ(after["Makefile"], "644 station:\n\ttrue\n");
  after["Makefile"] = one.before["Makefile"];
  EXPECT_EQ(after, one.before);
}

TEST(Meddling, another_name_of_a_file_does_not_reach_what_undo_brings_back) {
  Example one;
  fs::create_hard_link(one.folder.path() + "/Makefile", one.folder.path() + "/.again");
  one.tree = std::move(*DiskTree::scan(one.folder.path(), {}));
  DiskFileSystem disk({one.folder.path()});
  ASSERT_TRUE(one.carry(disk));
  std::ofstream(one.folder.path() + "/.again", std::ios::binary) << "garbage\n";
  ASSERT_TRUE(undo(disk, one.place()));
  EXPECT_EQ(one.folder.contents()["Makefile"], one.before["Makefile"]);
}

TEST(Meddling, undo_touches_nothing_when_an_original_is_not_what_it_was) {
  for (bool is_gone : {true, false}) {
    Example one;
    DiskFileSystem disk({one.folder.path()});
    auto stored = one.carry(disk);
    ASSERT_TRUE(stored);
    auto moved = one.folder.contents();
    int victims = 0;
    for (const auto& item : fs::directory_iterator(stored->folder)) {
      std::string name = item.path().filename().string();
      if (!name.starts_with("original-") || ++victims > 1) continue;
      if (is_gone)
        fs::remove(item.path());
      else
        std::ofstream(item.path(), std::ios::binary) << "garbage\n";
    }
    ASSERT_GT(victims, 0);
    auto undone = undo(disk, one.place());
    ASSERT_FALSE(undone);
    EXPECT_EQ(undone.error().failure, Failure::unsettled);
    EXPECT_EQ(one.folder.contents(), moved);
  }
}

TEST(Meddling, file_where_a_folder_must_return_is_a_conflict_that_can_be_resolved) {
  Example one;
  DiskFileSystem disk({one.folder.path()});
  ASSERT_TRUE(one.carry(disk));
  one.folder.write("a", "a file now\n");
  auto undone = undo(disk, one.place());
  ASSERT_FALSE(undone);
  EXPECT_EQ(undone.error().failure, Failure::unsettled);
  EXPECT_EQ(undone.error().place, "a");
  fs::remove(one.folder.path() + "/a");
  ASSERT_TRUE(undo(disk, one.place()));
  EXPECT_EQ(one.folder.contents(), one.before);
}

class PowerLoss : public ::testing::TestWithParam<int> {
};  // of every 4 unsafe changes of names, how many survive

TEST_P(PowerLoss, while_moving_leaves_what_can_go_either_way) {
  Example one;
  DiskFileSystem real({one.folder.path()});
  PowerDisk untouched(one.folder.path());
  PowerDisk whole = untouched.after_cut(4);
  ASSERT_TRUE(one.carry(whole));
  auto after = whole.contents();
  for (int n = 1; n <= whole.changes(); ++n) {
    for (bool is_undo : {true, false}) {
      PowerDisk disk = untouched.after_cut(4);
      disk.cut_at(n);
      try {
        (void)one.carry(disk);
        FAIL() << "the power was to go at " << n;
      } catch (const PowerCut&) {
      }
      PowerDisk found = disk.after_cut(GetParam());
      auto ended = is_undo ? undo(found, one.place()) : resume(found, one.place());
      auto now = found.contents();
      bool had_begun = static_cast<bool>(ended);
      EXPECT_TRUE(had_begun || ended.error().failure == Failure::usage) << n << ": " << ended.error().message;
      // Without a journal nothing had begun; with the last mark written it was over.
      bool may_be_new = !is_undo || now == after;
      EXPECT_TRUE(now == one.before || (may_be_new && now == after))
          << (is_undo ? "undo" : "resume") << " after " << n;
      if (had_begun) {
        EXPECT_EQ(now, is_undo ? one.before : after) << n;
      }
      ASSERT_FALSE(HasFailure());
    }
  }
}

TEST_P(PowerLoss, while_undoing_or_finishing_leaves_what_can_go_either_way) {
  Example one;
  PowerDisk untouched(one.folder.path());
  PowerDisk moved = untouched.after_cut(4);
  ASSERT_TRUE(one.carry(moved));
  auto after = moved.contents();
  PowerDisk counted = moved.after_cut(4);
  ASSERT_TRUE(undo(counted, one.place()));
  for (int n = 1; n <= counted.changes(); ++n) {
    PowerDisk disk = moved.after_cut(4);
    disk.cut_at(n);
    try {
      (void)undo(disk, one.place());
      continue;  // what follows the undo may be cut off or not
    } catch (const PowerCut&) {
    }
    for (int second = 1;; ++second) {
      // The way back or on is cut off as well, at every step, and gone again.
      PowerDisk found = disk.after_cut(GetParam());
      found.cut_at(second);
      bool is_whole = false;
      try {
        (void)(n % 2 ? resume(found, one.place()) : undo(found, one.place()));
        is_whole = true;
      } catch (const PowerCut&) {
      }
      PowerDisk again = found.after_cut(GetParam());
      (void)(second % 2 ? undo(again, one.place()) : resume(again, one.place()));
      auto now = again.contents();
      EXPECT_TRUE(now == one.before || now == after) << "cut at " << n << ", then at " << second;
      ASSERT_FALSE(HasFailure());
      if (is_whole) break;
    }
  }
}

INSTANTIATE_TEST_SUITE_P(Kept, PowerLoss, ::testing::Values(0, 1, 2, 3, 4));

}  // namespace
}  // namespace yc::test
