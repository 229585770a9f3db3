#include "plan/move_sheet.h"

#include <gtest/gtest.h>

#include "tree/memory_tree.h"

namespace yc {
namespace {

MemoryTree tree() {
  MemoryTree out;
  out.write("net/tide.c", std::string());
  out.write("main.c", std::string());
  out.write("a b.c", std::string());
  return out;
}

std::string parsed(const std::string& text) {
  MemoryTree here = tree();
  auto moves = parse_sheet(text, "sheet", here);
  if (!moves) return moves.error().place + " " + moves.error().message;
  std::string out;
  for (const Move& move : *moves) out += "[" + move.from.str() + "|" + move.to.str() + "]";
  return out;
}

TEST(MoveSheet, lines_and_errors) {
  const std::vector<std::pair<std::string, std::string>> cases = {
      {"main.c -> src/main.c\n", "[main.c|src/main.c]"},
      {"net/ -> core/net/\n", "[net|core/net]"},
      {"  main.c->x.c", "sheet:1:14 an arrow -> is missing here"},
      {"main.c -> x.c # why\n# all comment\n\n", "[main.c|x.c]"},
      {"\"a b.c\" -> \"c \\\"d\\\".c\"\n", "[a b.c|c \"d\".c]"},
      {"\xEF\xBB\xBFmain.c -> x.c\r\n", "[main.c|x.c]"},
      {"a b.c -> c.c\n", "sheet:1:2 a path with a blank in it needs quotes"},
      {"main.c\n", "sheet:1:7 an arrow -> is missing here"},
      {"main.c -> \n", "sheet:1:11 a path is missing here"},
      {"main.c -> x.c y.c\n", "sheet:1:14 a path with a blank in it needs quotes"},
      {"x\n", "sheet:1:2 an arrow -> is missing here"},
      {"main.c -> ../x.c\n", "sheet:1:17 leads out of the tree: ../x.c"},
      {"main.c -> /x.c\n", "sheet:1:15 paths start from the root of the tree, without a leading /"},
      {"main.c/ -> x\n", "sheet:1:13 main.c/ is a file, not a folder"},
      {"\"main.c -> x\n", "sheet:1:13 this quote is not closed"},
      {"\"a\\qb\" -> x\n", "sheet:1:4 only \\n, \\t, \\\" and \\\\ may follow a backslash in quotes"},
  };
  for (const auto& [text, expected] : cases) EXPECT_EQ(parsed(text), expected) << text;
}

TEST(MoveSheet, written_paths_are_read_back) {
  for (const char* name : {"plain.c", "a b.c", "q\"uote.c", "back\\slash", "line\nbreak", "tab\t", "#x",
                           "a->b", "x # y", "-> "}) {
    RelPath path = RelPath::from_normal(name);
    EXPECT_EQ(parsed(sheet_text(path) + " -> x\n"), "[" + path.str() + "|x]") << name;
  }
}

TEST(MoveArguments, behave_like_a_file_mover) {
  MemoryTree here = tree();
  auto at = [](const char* text) { return RelPath::from_normal(text); };
  auto told = [&](std::vector<RelPath> from, RelPath to, bool into) {
    auto moves = moves_from_arguments(here, from, to, into);
    if (!moves) return moves.error().message;
    std::string out;
    for (const Move& move : *moves) out += "[" + move.from.str() + "|" + move.to.str() + "]";
    return out;
  };
  EXPECT_EQ(told({at("main.c")}, at("net"), false), "[main.c|net/main.c]");
  EXPECT_EQ(told({at("main.c")}, at("new.c"), false), "[main.c|new.c]");
  EXPECT_EQ(told({at("main.c")}, at("new"), true), "[main.c|new/main.c]");
  EXPECT_EQ(told({at("net/tide.c")}, RelPath(), false), "[net/tide.c|tide.c]");
  EXPECT_EQ(told({at("net")}, at("core"), false), "[net|core]");
  EXPECT_EQ(told({at("main.c"), at("a b.c")}, at("new"), false),
            "several files can only be moved into a folder");
  EXPECT_EQ(told({at("a b.c")}, at("main.c"), true), "is a file, not a folder");
}

}  // namespace
}  // namespace yc
