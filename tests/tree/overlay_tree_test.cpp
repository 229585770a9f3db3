// The planned tree over another one.
#include "tree/overlay_tree.h"

#include <gtest/gtest.h>

#include "plan/compare.h"
#include "support/dump.h"

namespace yc::test {
namespace {

RelPath at(const char* text) {
  return RelPath::from_normal(text);
}

TEST(OverlayTree, gives_an_edited_file_out_again_until_its_edits_change) {
  MemoryTree tree = tree_of({{"a.py", "import b\n"}, {"c.py", "import b\n"}});
  auto moves = MoveSet::make(tree, {{at("a.py"), at("d/a.py")}});
  ASSERT_TRUE(moves);
  OverlayTree overlay(tree, *moves);
  EditMap edits;
  ASSERT_TRUE(edits[at("a.py")].add({7, 8}, "x"));
  overlay.set_edits(&edits);
  Bytes first = *overlay.read(at("d/a.py"));
  EXPECT_EQ(*first, "import x\n");
  // The same object: by it readers know that they have read this.
  EXPECT_EQ(overlay.read(at("d/a.py"))->get(), first.get());
  ASSERT_TRUE(edits[at("c.py")].add({7, 8}, "y"));
  EXPECT_EQ(overlay.read(at("d/a.py"))->get(), first.get());
  edits[at("a.py")] = FileEdits();
  ASSERT_TRUE(edits[at("a.py")].add({7, 8}, "z"));
  EXPECT_EQ(**overlay.read(at("d/a.py")), "import z\n");
  EXPECT_EQ(*first, "import x\n");
}

}  // namespace
}  // namespace yc::test
