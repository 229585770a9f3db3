#include <gtest/gtest.h>

#include <map>
#include <random>

#include "model/graph.h"

namespace yc {
namespace {

RelPath file(unsigned number) {
  return RelPath::from_normal("src/m" + std::to_string(number) + ".c");
}

TEST(FileTable, gives_each_path_a_number_once) {
  FileTable table;
  EXPECT_EQ(table.find(file(1)), kNoFile);
  FileIndex one = table.index(file(1));
  EXPECT_EQ(table.index(file(1)), one);
  EXPECT_NE(table.index(file(2)), one);
  EXPECT_EQ(table.path(one), file(1));
  EXPECT_EQ(table.size(), 2U);
}

// Copies are taken now and then, as graphs take them; numbers stay what they were, in all of them.
TEST(FileTable, keeps_its_numbers_in_copies) {
  std::mt19937 random(3);
  FileTable table;
  std::map<RelPath, FileIndex> given;
  std::vector<std::pair<FileTable, std::map<RelPath, FileIndex>>> copies;
  for (int step = 0; step < 6000; ++step) {
    RelPath path = file(static_cast<unsigned>(random() % 4000));
    auto known = given.find(path);
    FileIndex index = table.index(path);
    if (known != given.end()) {
      ASSERT_EQ(index, known->second);
    } else {
      ASSERT_EQ(static_cast<std::size_t>(index), given.size());
      given.emplace(path, index);
    }
    if (step % 500 == 7) {
      table.settle();
      copies.emplace_back(table, given);
    }
    if (step % 900 == 0 && !copies.empty()) copies.erase(copies.begin());
  }
  copies.emplace_back(table, given);
  for (const auto& [copy, numbers] : copies) {
    ASSERT_EQ(copy.size(), numbers.size());
    for (const auto& [path, index] : numbers) {
      ASSERT_EQ(copy.find(path), index);
      ASSERT_EQ(copy.path(index), path);
    }
    EXPECT_EQ(copy.find(file(5000)), kNoFile);
  }
}

}  // namespace
}  // namespace yc
