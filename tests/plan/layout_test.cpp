#include "plan/layout.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/format.h"
#include "plan/layout_kinds.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::HasSubstr;
using ::testing::IsEmpty;
using ::testing::UnorderedElementsAre;

std::vector<LayoutRule> rules_of(const std::string& text) {
  auto rules = parse_layout(text, "layout.toml");
  EXPECT_TRUE(rules) << (rules ? "" : rules.error().place + ": " + rules.error().message);
  return rules ? *rules : std::vector<LayoutRule>();
}

std::string error_of(const std::string& text) {
  auto rules = parse_layout(text, "layout.toml");
  return rules ? "" : rules.error().place + ": " + rules.error().message;
}

struct LaidOut {
  explicit LaidOut(const TreeFiles& files) : tree(tree_of(files)), graph(read_graph(tree, cache)) {}
  std::vector<std::string> by(const std::string& rules) {
    layout = lay_out(tree, graph, rules_of(rules));
    std::vector<std::string> out;
    for (const Misplaced& one : layout.misplaced)
      out.push_back(one.path.str() + " -> " + one.place.str() + (one.is_taken ? " taken" : ""));
    return out;
  }
  MemoryTree tree;
  FactsCache cache;
  ReferenceGraph graph;
  Layout layout;
};

TreeFiles workshop() {
  auto crate = [](const std::string& name, const std::string& more) {
    return "[package]\nname = \"" + name + "\"\nversion = \"0.1.0\"\n" + more;
  };
  return {{"Cargo.toml", "[workspace]\nmembers = [\"crates/*\", \"decode\"]\n"},
          {"crates/frame/Cargo.toml", crate("frame", "publish = false\n")},
          {"crates/frame/src/lib.rs", ""},
          {"crates/frame/tests/frames.rs", ""},
          {"crates/tide/Cargo.toml", crate("tide", "")},
          {"crates/tide/src/lib.rs", ""},
          {"decode/Cargo.toml", crate("decode", "")},
          {"decode/src/main.rs", "fn main() {}\n"},
          {"images/tide.png", "x"},
          {"firmware/tide.c", ""},
          {"firmware/tide.h", ""},
          {"firmware/test_tide.c", ""}};
}

TEST(LayoutRules, patterns_take_folders_and_names) {
  EXPECT_THAT(*match_layout("a/*/b?.c", at("a/x/b1.c")), ElementsAre("x", "b1.c"));
  EXPECT_THAT(*match_layout("**/b", at("b")), ElementsAre(""));
  EXPECT_THAT(*match_layout("**/b", at("x/y/b")), ElementsAre("x/y"));
  EXPECT_THAT(*match_layout("a/**", at("a/x/y")), ElementsAre("x/y"));
  EXPECT_FALSE(match_layout("a/**", at("a")));
  EXPECT_FALSE(match_layout("a/*", at("a/x/y")));
  EXPECT_FALSE(match_layout("a", at("ab")));
}

TEST(LayoutRules, places_are_told_where_they_cannot_be_read) {
  EXPECT_THAT(error_of("[[place]]\nholds = \"program\"\n"), HasSubstr("needs \"to\""));
  EXPECT_THAT(error_of("[[place]]\nholds = \"boat\"\nto = \"x/\"\n"),
              HasSubstr("\"boat\" is no kind of a folder"));
  EXPECT_THAT(error_of("[[place]]\nto = \"../x\"\n"), HasSubstr("must lie in the tree"));
  EXPECT_THAT(error_of("[[place]]\nto = 3\n"), HasSubstr("must be a string"));
  EXPECT_THAT(error_of("[[place]]\nof = \"boat\"\nto = \"x\"\n"), HasSubstr("folder"));
  EXPECT_THAT(error_of("[[place]]\nmatch = [3]\nto = \"x\"\n"), HasSubstr("match must be a list of strings"));
  EXPECT_THAT(error_of("boat = 1\n"), HasSubstr("layout.toml:1:8: \"boat\" is not a known key"));
  EXPECT_THAT(error_of("[[place\n"), HasSubstr("layout.toml:"));
  EXPECT_THAT(error_of(""), HasSubstr("holds no [[place]]"));
}

TEST(LayoutRules, what_is_written_is_read_the_same) {
  std::string text =
      "[[place]]\nof = \"file\"\nholds = \"header\"\nmatch = [\"a/*\", \"b/*\"]\nexcept = \"a/x.h\"\nto = "
      "\"a/include/\"\n\n"
      "[[place]]\nholds = \"program\"\nto = \"programs/{name}\"\n";
  EXPECT_EQ(layout_text(rules_of(text)), text);
}

TEST(Layout, units_go_where_their_kind_belongs) {
  LaidOut tree(workshop());
  EXPECT_THAT(
      tree.by(
          "[[place]]\nholds = \"program\"\nto = \"programs/{name}\"\n[[place]]\nholds = \"private\"\nto = "
          "\"internal/\"\n[[place]]\nholds = \"library\"\nto = \"crates/\"\n[[place]]\nholds = \"asset\"\nto "
          "= "
          "\"assets/\"\n"),
      ElementsAre("crates/frame -> internal/frame", "decode -> programs/decode", "images -> assets/images"));
  EXPECT_EQ(tree.layout.in_place_in_all(), 1U);
  EXPECT_EQ(tree.layout.moves().size(), 3U);
}

TEST(Layout, files_go_by_kind_and_by_pattern) {
  LaidOut tree(workshop());
  EXPECT_THAT(
      tree.by("[[place]]\nof = \"file\"\nholds = \"test\"\nmatch = \"*/*\"\nto = \"{1}/tests/{name}\"\n"
              "[[place]]\nof = \"file\"\nmatch = \"firmware/*.c\"\nexcept = \"firmware/x*\"\nto = "
              "\"firmware/src/{stem}.c\"\n"),
      ElementsAre("firmware/test_tide.c -> firmware/tests/test_tide.c",
                  "firmware/tide.c -> firmware/src/tide.c"));
}

TEST(Layout, a_place_that_is_taken_is_told) {
  LaidOut tree(workshop());
  EXPECT_THAT(
      tree.by("[[place]]\nof = \"file\"\nmatch = \"firmware/tide.*\"\nto = \"firmware/test_tide.c\"\n"),
      ElementsAre("firmware/tide.c -> firmware/test_tide.c taken",
                  "firmware/tide.h -> firmware/test_tide.c taken"));
  EXPECT_THAT(tree.layout.moves(), IsEmpty());
  EXPECT_THAT(sheet_of(tree.layout, rules_of("[[place]]\nof = \"file\"\nto = \"x\"\n")),
              HasSubstr("# taken: "));
}

TEST(Layout, a_sheet_is_read_as_a_move_sheet) {
  LaidOut tree(workshop());
  std::string rules = "[[place]]\nholds = \"program\"\nto = \"programs/\"\n";
  tree.by(rules);
  EXPECT_EQ(sheet_of(tree.layout, rules_of(rules)),
            "# layout.toml:1:1: program belongs at programs/\ndecode/ -> programs/decode/\n");
}

TEST(LayoutLearning, rules_that_are_followed_find_nothing_misplaced) {
  TreeFiles files = workshop();
  for (const char* name : {"level", "wave", "salt"}) {
    files.push_back(
        {"crates/" + std::string(name) + "/Cargo.toml", "[package]\nname = \"" + std::string(name) + "\"\n"});
    files.push_back({"crates/" + std::string(name) + "/src/lib.rs", ""});
  }
  files.push_back({"old/Cargo.toml", "[package]\nname = \"old\"\n"});
  files.push_back({"old/src/lib.rs", ""});
  LaidOut tree(files);
  std::vector<LayoutRule> learned = learn_layout(tree.tree, tree.graph);
  std::string text = layout_text(learned);
  EXPECT_THAT(text, HasSubstr("holds = \"library\"\nexcept = \"old\"\nto = \"crates/\"\n"));
  EXPECT_THAT(tree.by(text), IsEmpty());
}

}  // namespace
}  // namespace yc::test
