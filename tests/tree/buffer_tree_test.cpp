#include "tree/buffer_tree.h"

#include <gtest/gtest.h>

#include "base/name_search.h"
#include "tree/memory_tree.h"

namespace yc {
namespace {

RelPath at(const char* text) {
  return RelPath::from_normal(text);
}

TEST(BufferTree, unsaved_texts_take_the_place_of_saved_ones) {
  auto saved = std::make_shared<MemoryTree>();
  saved->write("src/tide.c", "saved\n");
  saved->write("src/ebb.c", "other\n");
  BufferTree tree(saved);
  tree.set(at("src/tide.c"), std::make_shared<const std::string>("not saved yet\n"));
  EXPECT_EQ(**tree.read(at("src/tide.c")), "not saved yet\n");
  EXPECT_EQ(**tree.read(at("src/ebb.c")), "other\n");
  EXPECT_EQ(tree.find(at("src/tide.c"))->size, 14u);
  EXPECT_EQ(tree.files(), saved->files());
  std::string buffer;
  EXPECT_EQ(*tree.peek(at("src/tide.c"), buffer), "not saved yet\n");
  EXPECT_TRUE(tree.may_hold(at("src/tide.c"), NameSearch({"yet"})));
  EXPECT_FALSE(tree.may_hold(at("src/tide.c"), NameSearch({"saved\nx"})));
  EXPECT_FALSE(tree.may_hold(at("src/ebb.c"), NameSearch({"yet"})));
}

TEST(BufferTree, a_text_of_no_file_is_no_file) {
  auto saved = std::make_shared<MemoryTree>();
  saved->write("src/tide.c", "saved\n");
  BufferTree tree(saved);
  tree.set(at("src/new.c"), std::make_shared<const std::string>("never saved\n"));
  tree.set(at("src"), std::make_shared<const std::string>("a folder\n"));
  EXPECT_EQ(tree.find(at("src/new.c")), nullptr);
  EXPECT_FALSE(tree.read(at("src/new.c")));
  EXPECT_TRUE(tree.is_folder(at("src")));
}

}  // namespace
}  // namespace yc
