#include "carry/record.h"

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>

#include "carry/recovery.h"
#include "support/own_state.h"
#include "support/scratch_folder.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;

RelPath at(const char* text) {
  return RelPath::from_normal(text);
}

const std::string kBefore = "#include \"level.h\"\n", kAfter = "#include \"inc/level.h\"\n";

// level.h moved to inc/, and main.c was edited, by somebody else.
MadeMove made() {
  MadeMove out;
  out.requested = out.files = {{at("level.h"), at("inc/level.h")}};
  out.edits[at("main.c")] = {kBefore, kAfter};
  out.made = {{at("inc"), 0}};
  out.command = "rename in an editor";
  out.patch = "a diff\n";
  return out;
}

void fill(const ScratchFolder& folder) {
  folder.write("main.c", kAfter);
  folder.write("inc/level.h", "int level(void);\n");
}

StatePlace place_of(const ScratchFolder& folder) {
  return {folder.path(), folder.path() + "/.yellow-compass", own_state()};
}

DiskFileSystem disk_of(const ScratchFolder& folder) {
  return DiskFileSystem({folder.path(), own_state()});
}

TEST(Recording, a_move_of_somebody_else_is_listed_and_taken_back) {
  ScratchFolder folder;
  fill(folder);
  DiskFileSystem disk = disk_of(folder);
  auto stored = record_move(disk, place_of(folder), made());
  ASSERT_TRUE(stored) << stored.error().message;
  EXPECT_TRUE(stored->stands());
  EXPECT_EQ(stored->journal.command, "rename in an editor");
  EXPECT_EQ(*disk.read(stored->folder + "/patch"), "a diff\n");
  auto undone = undo(disk, place_of(folder));
  ASSERT_TRUE(undone) << undone.error().message;
  EXPECT_EQ(*disk.read(folder.path() + "/main.c"), kBefore);
  EXPECT_EQ(*disk.read(folder.path() + "/level.h"), "int level(void);\n");
  EXPECT_FALSE(fs::exists(folder.path() + "/inc"));
}

TEST(Recording, waits_for_what_is_not_saved) {
  ScratchFolder folder;
  fill(folder);
  folder.write("main.c", kBefore);
  DiskFileSystem disk = disk_of(folder);
  EXPECT_EQ(not_as_moved(disk, folder.path(), made()), (std::vector<RelPath>{at("main.c")}));
  auto stored = record_move(disk, place_of(folder), made());
  ASSERT_FALSE(stored);
  EXPECT_EQ(stored.error().failure, Failure::unsettled);
  EXPECT_EQ(stored.error().place, "main.c");
  EXPECT_FALSE(undo(disk, place_of(folder)));
}

TEST(Recording, later_work_is_not_undone) {
  ScratchFolder folder;
  fill(folder);
  DiskFileSystem disk = disk_of(folder);
  ASSERT_TRUE(record_move(disk, place_of(folder), made()));
  folder.write("main.c", kAfter + "int more;\n");
  auto undone = undo(disk, place_of(folder));
  ASSERT_FALSE(undone);
  EXPECT_EQ(undone.error().place, "main.c");
  EXPECT_EQ(*disk.read(folder.path() + "/main.c"), kAfter + "int more;\n");
}

TEST(Recording, a_file_that_an_editor_wrote_anew_is_found_again) {
  ScratchFolder folder;
  fill(folder);
  DiskFileSystem disk = disk_of(folder);
  ASSERT_TRUE(record_move(disk, place_of(folder), made()));
  // Saved once more with the same text, as a new file.
  folder.write("main.c.new", kAfter);
  fs::rename(folder.path() + "/main.c.new", folder.path() + "/main.c");
  ASSERT_TRUE(undo(disk, place_of(folder)));
  EXPECT_EQ(*disk.read(folder.path() + "/main.c"), kBefore);
}

}  // namespace
}  // namespace yc::test
