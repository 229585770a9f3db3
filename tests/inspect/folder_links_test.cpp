// Which folders name files of which others.
#include "inspect/folder_links.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "inspect/overview.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

TreeFiles program() {
  return {{"Makefile", "all: src/main.o lib/tide.o\n"},
          {"src/main.c", "#include \"main.h\"\n#include \"../lib/tide.h\"\n"},
          {"src/main.h", ""},
          {"lib/tide.c", "#include \"tide.h\"\n"},
          {"lib/tide.h", ""},
          {"lib/old/chart.c", ""}};
}

std::vector<std::string> shown(const FolderLinks& links) {
  std::vector<std::string> out;
  for (const FolderLink& link : links.links)
    out.push_back(links.folders[link.from] + " " + links.folders[link.to] + " " +
                  std::to_string(link.before) + " " + std::to_string(link.after));
  return out;
}

TEST(FolderLinks, count_pairs_of_files_before_and_after_a_move) {
  MemoryTree tree = tree_of(program());
  ReferenceGraph graph = read(tree);
  FolderLinks now = folder_links(graph, nullptr, 10);
  EXPECT_THAT(shown(now), ElementsAre(". lib 1 1", ". src 1 1", "lib lib 1 1", "src lib 1 1", "src src 1 1"));
  EXPECT_EQ(now.crossing_before, 3U);
  EXPECT_EQ(now.pairs, 5U);
  auto moves = MoveSet::make(tree, {{at("lib/tide.h"), at("src/tide.h")}});
  ASSERT_TRUE(moves);
  FolderLinks then = folder_links(graph, &*moves, 10);
  EXPECT_THAT(shown(then), ElementsAre(". lib 1 1", ". src 1 1", "lib lib 1 0", "lib src 0 1", "src lib 1 0",
                                       "src src 1 2"));
  EXPECT_EQ(then.crossing_after, 3U);
}

TEST(FolderLinks, the_lightest_folders_go_into_those_around_them) {
  TreeFiles files = program();
  for (int i = 0; i < 30; ++i)
    files.push_back({"pages/p" + std::to_string(i) + "/index.html", "<a href=\"../p0/index.html\">\n"});
  MemoryTree tree = tree_of(files);
  FolderLinks links = folder_links(read(tree), nullptr, 4);
  EXPECT_THAT(links.folders, ElementsAre("./…", "pages/…", "pages/p0", "src"));
}

TEST(Overview, hubs_and_what_nothing_names) {
  TreeFiles files = program();
  for (const char* name : {"a", "b", "c"})
    files.push_back({"src/" + std::string(name) + ".c", "#include \"main.h\"\n"});
  MemoryTree tree = tree_of(files);
  Overview seen = overview(tree, read(tree));
  ASSERT_EQ(seen.hubs.size(), 1U);
  EXPECT_EQ(seen.hubs.front(), std::pair(at("src/main.h"), std::size_t{4}));
  EXPECT_THAT(seen.unnamed, ElementsAre(at("lib/old/chart.c"), at("src/a.c"), at("src/b.c"), at("src/c.c")));
  EXPECT_THAT(seen.not_understood, IsEmpty());
}

}  // namespace
}  // namespace yc::test
