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

TEST(OverlayTree, lists_what_leaves_and_arrives_in_order) {
  MemoryTree tree = tree_of({{"a.c", ""}, {"b.txt", ""}, {"k/m.ts", ""}, {"z.md", ""}});
  Entry link;
  link.kind = EntryKind::link;
  tree.write(at("l.c"), std::make_shared<std::string>("a.c"), link);
  tree.write(at("stays"), std::make_shared<std::string>("b.txt"), link);
  auto moves =
      MoveSet::make(tree, {{at("a.c"), at("zz/a.c")}, {at("l.c"), at("c/l")}, {at("b.txt"), at("a.c")}});
  ASSERT_TRUE(moves);
  FileChanges changes;
  changes.made[at("k/index.ts")] = "";
  changes.dropped.insert(at("z.md"));
  OverlayTree overlay(tree, *moves, changes);
  auto texts = [](const std::vector<RelPath>& list) {
    std::vector<std::string> out;
    for (const RelPath& path : list) out.push_back(path.str());
    return out;
  };
  using List = std::vector<std::string>;
  EXPECT_EQ(texts(overlay.files()), (List{"a.c", "c/l", "k/index.ts", "k/m.ts", "stays", "zz/a.c"}));
  EXPECT_EQ(texts(overlay.listing().links()), (List{"c/l", "stays"}));
}

// Held against the plain way, on a tree whose folders' names begin alike.
TEST(TreeReader, matches_at_any_depth) {
  MemoryTree tree = tree_of({{"src/a.c", ""},
                             {"src/.hidden.c", ""},
                             {"src/deep/b.c", ""},
                             {"src/deep/b.h", ""},
                             {"src-old/c.c", ""},
                             {"src.c", ""},
                             {"top.c", ""}});
  auto texts = [&](const char* base, const char* pattern) {
    std::string out;
    for (const RelPath& path : match_deep(tree, at(base), pattern)) out += path.str() + " ";
    EXPECT_EQ(matches_any_deep(tree, at(base), pattern), !out.empty());
    return out;
  };
  EXPECT_EQ(texts("", "src/*.c"), "src/.hidden.c src/a.c src/deep/b.c ");
  EXPECT_EQ(texts("src", "*"), "src/.hidden.c src/a.c src/deep/b.c src/deep/b.h ");
  EXPECT_EQ(texts("", "src*/[bc].c"), "src-old/c.c src/deep/b.c ");
  EXPECT_EQ(texts("", "s*/*.c"), "src-old/c.c src/.hidden.c src/a.c src/deep/b.c ");
  EXPECT_EQ(texts("src", "deep/*.h"), "src/deep/b.h ");
  EXPECT_EQ(texts("", "*.ts"), "");
  EXPECT_EQ(texts("", "none/*"), "");
  EXPECT_EQ(texts("", "*p.c"), "top.c ");
}

}  // namespace
}  // namespace yc::test
