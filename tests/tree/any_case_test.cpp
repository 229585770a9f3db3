#include "tree/any_case.h"

#include <gtest/gtest.h>

#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

TEST(AnyCase, paths_are_found_by_other_letters) {
  MemoryTree tree = tree_of({{"Lib/Tide.c", ""}, {"Lib/level.c", ""}, {"doc/A.md", ""}, {"doc/a.MD", ""}});
  EXPECT_EQ(find_any_case(tree, at("lib/tide.C")), at("Lib/Tide.c"));
  EXPECT_EQ(find_any_case(tree, at("Lib/Tide.c")), at("Lib/Tide.c"));
  EXPECT_EQ(find_any_case(tree, at("lib/mast.c")), std::nullopt);
  EXPECT_EQ(find_any_case(tree, at("doc/a.md")), std::nullopt) << "two could be meant";
  EXPECT_EQ(find_any_case(tree, at("doc/a.MD")), at("doc/a.MD"));
  tree.write("Lib/Mast.c", "");
  EXPECT_EQ(find_any_case(tree, at("lib/mast.c")), at("Lib/Mast.c")) << "what was added is known";
  MemoryTree copy = tree;
  copy.write("lib2/x", "");
  EXPECT_EQ(find_any_case(copy, at("LIB2/X")), at("lib2/x"));
  EXPECT_EQ(find_any_case(tree, at("LIB2/X")), std::nullopt);
}

TEST(AnyCase, a_folder_is_listed_once) {
  AnyCaseNames names;
  int asked = 0;
  auto list = [&](const RelPath&) {
    ++asked;
    return std::vector<std::string>{"a.c", "A.c", "b.c"};
  };
  EXPECT_EQ(names.find({}, "A.C", list).size(), 2u);
  EXPECT_EQ(names.find({}, "B.c", list).size(), 1u);
  EXPECT_TRUE(names.find({}, "c.c", list).empty());
  EXPECT_EQ(asked, 1);
}

}  // namespace
}  // namespace yc::test
