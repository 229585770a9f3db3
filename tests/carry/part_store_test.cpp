#include "carry/part_store.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <sys/stat.h>

#include <filesystem>
#include <fstream>

#include "support/scratch_folder.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;
using ::testing::ElementsAre;
using ::testing::IsEmpty;

std::string one() {
  return "1";
}

class PartStoreTest : public ::testing::Test {
 protected:
  std::string file() const { return folder_.path() + "/cache/readings.db"; }
  std::vector<std::string> kept(const std::string& key, const std::string& program = "1") {
    PartStore store(file(), [&] { return program; });
    return store.shelf("/gauges")->load(key);
  }
  bool keep(const std::string& key, const std::string& bytes, const std::string& program = "1") {
    PartStore store(file(), [&] { return program; });
    store.shelf("/gauges")->save(key, bytes);
    return store.close();
  }

  ScratchFolder folder_;
};

TEST_F(PartStoreTest, keeps_between_runs_the_newest_first) {
  EXPECT_THAT(kept("a"), IsEmpty());
  for (const char* bytes : {"1", "2", "3", "4", "5"}) EXPECT_TRUE(keep("a", bytes));
  EXPECT_TRUE(keep("b", std::string("x\0y", 3)));
  EXPECT_THAT(kept("a"), ElementsAre("5", "4", "3", "2"));
  EXPECT_THAT(kept("b"), ElementsAre(std::string("x\0y", 3)));
  PartStore store(file(), one);
  EXPECT_THAT(store.shelf("/other")->load("a"), IsEmpty()) << "of another tree";
  struct stat info {};
  ASSERT_EQ(stat(file().c_str(), &info), 0);
  EXPECT_EQ(info.st_mode & 0777, 0600u);
}

TEST_F(PartStoreTest, seeds_last_and_are_not_foreseen) {
  PartStore first(file(), one), other(folder_.path() + "/other/readings.db", one);
  std::uint64_t seed = first.shelf("/gauges")->seed();
  EXPECT_EQ(PartStore(file(), one).shelf("/gauges")->seed(), seed);
  EXPECT_NE(other.shelf("/gauges")->seed(), seed);
}

TEST_F(PartStoreTest, another_program_begins_anew) {
  EXPECT_TRUE(keep("a", "1"));
  EXPECT_THAT(kept("a", "2"), IsEmpty());
  EXPECT_THAT(kept("a", "1"), IsEmpty());
}

TEST_F(PartStoreTest, two_programs_at_once) {
  PartStore here(file(), one), there(file(), one);
  auto first = here.shelf("/gauges"), second = there.shelf("/gauges");
  first->save("a", "1");
  second->save("b", "2");
  EXPECT_TRUE(here.close());
  EXPECT_TRUE(there.close());
  EXPECT_THAT(kept("a"), ElementsAre("1"));
  EXPECT_THAT(kept("b"), ElementsAre("2"));
}

TEST_F(PartStoreTest, what_is_no_database_keeps_nothing) {
  fs::create_directory(folder_.path() + "/cache");
  std::ofstream(file()) << std::string(9000, 'x');
  chmod(file().c_str(), 0600);
  EXPECT_THAT(kept("a"), IsEmpty());
  keep("a", "1");
  EXPECT_THAT(kept("a"), IsEmpty());
  EXPECT_EQ(fs::file_size(file()), 9000u) << "whatever it is, it is somebody's";
}

TEST_F(PartStoreTest, parts_that_the_disk_damaged_are_passed_over) {
  std::string part(5000, 'p');
  EXPECT_TRUE(keep("a", part));
  std::fstream disk(file(), std::ios::in | std::ios::out | std::ios::binary);
  std::string bytes((std::istreambuf_iterator<char>(disk)), std::istreambuf_iterator<char>());
  std::size_t at = bytes.find("pppppppp");
  ASSERT_NE(at, std::string::npos);
  disk.seekp(static_cast<std::streamoff>(at));
  disk << 'q';
  disk.close();
  EXPECT_THAT(kept("a"), IsEmpty());
}

TEST_F(PartStoreTest, neither_links_nor_files_that_others_may_write) {
  fs::create_directory(folder_.path() + "/cache");
  std::string outside = folder_.path() + "/outside";
  std::ofstream(outside) << "sentinel";
  fs::create_symlink(outside, file());
  keep("a", "1");
  EXPECT_THAT(kept("a"), IsEmpty());
  EXPECT_EQ(fs::file_size(outside), 8u);
  fs::remove(file());
  keep("a", "1");
  ASSERT_THAT(kept("a"), ElementsAre("1"));
  chmod(file().c_str(), 0666);
  EXPECT_THAT(kept("a"), IsEmpty());
  EXPECT_THAT(PartStore("", one).shelf("/gauges")->load("a"), IsEmpty()) << "no place for it";
}

}  // namespace
}  // namespace yc::test
