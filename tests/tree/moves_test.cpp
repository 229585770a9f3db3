#include "tree/moves.h"

#include <gtest/gtest.h>

#include "tree/memory_tree.h"
#include "tree/overlay_tree.h"

namespace yc {
namespace {

RelPath at(const char* text) {
  return RelPath::from_normal(text);
}

MemoryTree tree() {
  MemoryTree out;
  for (const char* path : {"a.c", "b.c", "net/x.c", "net/y.c", "net/deep/z.c", "lib/l.c"})
    out.write(path, std::string(path));
  Entry ignored;
  ignored.ignored = true;
  out.write(at("out.o"), std::make_shared<std::string>("o"), ignored);
  Entry guarded;
  guarded.guarded = true;
  out.write(at("vendor.c"), std::make_shared<std::string>("v"), guarded);
  return out;
}

std::string refused(std::vector<Move> moves) {
  MemoryTree here = tree();
  auto set = MoveSet::make(here, std::move(moves));
  return set ? "accepted" : set.error().place + " " + set.error().message;
}

TEST(MoveSet, refuses_with_a_reason) {
  EXPECT_EQ(refused({{at("none.c"), at("x.c")}}), "none.c there is no such file or folder");
  EXPECT_EQ(refused({{at("a.c"), at("b.c")}}), "b.c exists already; a.c cannot take its place");
  EXPECT_EQ(refused({{at("net"), at("net/inside")}}),
            "net a folder cannot be moved into itself (net/inside)");
  EXPECT_EQ(refused({{at("a.c"), at("x.c")}, {at("b.c"), at("x.c")}}),
            "x.c two moves lead here: a.c and b.c");
  EXPECT_EQ(refused({{at("a.c"), at("x.c")}, {at("a.c"), at("y.c")}}), "a.c is moved twice");
  EXPECT_EQ(refused({{at("vendor.c"), at("x.c")}}), "vendor.c is protected");
  EXPECT_EQ(refused({{at("out.o"), at("x.o")}}), "out.o is ignored by version control or is a build output");
  EXPECT_EQ(refused({{at("a.c"), at("b.c/x.c")}}), "b.c/x.c b.c is a file, not a folder");
  EXPECT_EQ(refused({{RelPath(), at("x")}}), " the root of the tree cannot be moved");
  EXPECT_EQ(refused({{at("a.c"), at("net")}}), "net is a folder already");
}

TEST(MoveSet, swaps_chains_and_nested_lines) {
  MemoryTree here = tree();
  EXPECT_TRUE(MoveSet::make(here, {{at("a.c"), at("b.c")}, {at("b.c"), at("a.c")}}));
  EXPECT_TRUE(MoveSet::make(here, {{at("b.c"), at("c.c")}, {at("a.c"), at("b.c")}}));
  auto nested = MoveSet::make(here, {{at("net"), at("core")}, {at("net/x.c"), at("x.c")}});
  ASSERT_TRUE(nested);
  EXPECT_EQ(nested->map_file(at("net/x.c")), at("x.c"));
  EXPECT_EQ(nested->map_file(at("net/y.c")), at("core/y.c"));
  EXPECT_EQ(nested->unmap_file(at("core/deep/z.c")), at("net/deep/z.c"));
}

TEST(MoveSet, folders_follow_what_they_hold) {
  MemoryTree here = tree();
  auto map = [&](std::vector<Move> moves, const char* folder) {
    auto set = MoveSet::make(here, std::move(moves));
    auto image = set->map_folder(at(folder));
    return image ? image->str() : "scattered";
  };
  EXPECT_EQ(map({{at("net"), at("core/net")}}, "net"), "core/net");
  EXPECT_EQ(map({{at("net"), at("core/net")}}, "net/deep"), "core/net/deep");
  EXPECT_EQ(map({{at("net/x.c"), at("x.c")}}, "net"), "net");
  EXPECT_EQ(map({{at("lib/l.c"), at("other/l.c")}}, "lib"), "other");
  EXPECT_EQ(map({{at("lib/l.c"), at("lib/m.c")}}, "lib"), "lib");
  EXPECT_EQ(map({{at("net/x.c"), at("p/x.c")}, {at("net/y.c"), at("q/y.c")}, {at("net/deep"), at("p/deep")}},
                "net"),
            "scattered");
}

TEST(MoveSet, a_folder_goes_where_its_line_says_though_a_file_in_it_goes_elsewhere) {
  MemoryTree tree;
  for (const char* path : {"a/x/1.c", "a/x/2.c", "a/y/3.c", "b/4.c"}) tree.write(path, "");
  auto set = MoveSet::make(
      tree, {{at("a"), at("c")}, {at("a/x/1.c"), at("c/x/one.c")}, {at("a/y/3.c"), at("b/3.c")}});
  ASSERT_TRUE(set);
  EXPECT_EQ(set->map_folder(at("a")), at("c"));
  EXPECT_EQ(set->map_folder(at("a/x")), at("c/x"));
  EXPECT_EQ(set->map_folder(at("a/y")), at("b")) << "all that it held went there";
}

TEST(OverlayTree, shows_the_tree_after_the_move) {
  MemoryTree here = tree();
  auto set =
      MoveSet::make(here, {{at("lib/l.c"), at("core/l.c")}, {at("a.c"), at("b.c")}, {at("b.c"), at("a.c")}});
  ASSERT_TRUE(set);
  OverlayTree after(here, *set);
  EXPECT_EQ(after.find(at("lib")), nullptr) << "an emptied folder goes";
  EXPECT_TRUE(after.is_folder(at("core")));
  EXPECT_EQ(**after.read(at("core/l.c")), "lib/l.c");
  EXPECT_EQ(**after.read(at("a.c")), "b.c");
  EXPECT_FALSE(after.read(at("lib/l.c")));
  std::unordered_map<RelPath, FileEdits> edits;
  edits[at("a.c")].add({0, 1}, "edited ");
  after.set_edits(&edits);
  EXPECT_EQ(**after.read(at("b.c")), "edited .c");
  EXPECT_EQ(after.children(RelPath()),
            (std::vector<std::string>{"a.c", "b.c", "core", "net", "out.o", "vendor.c"}));
}

}  // namespace
}  // namespace yc
