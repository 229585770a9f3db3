#include "base/path.h"

#include <gtest/gtest.h>

#include <thread>

namespace yc {
namespace {

RelPath path(const char* text) {
  return RelPath::from_normal(text);
}

TEST(Path, resolves_below_a_base) {
  struct Sample {
    const char* base;
    const char* text;
    const char* result;  // null where it leaves the root
  };
  const Sample samples[] = {{"", "a", "a"},       {"", "./a", "a"},        {"", "a//b/", "a/b"},
                            {"a", "../b", "b"},   {"a/b", "../../c", "c"}, {"a", "../../b", nullptr},
                            {"a", ".", "a"},      {"a", "..", ""},         {"", "..", nullptr},
                            {"a", "/b", nullptr}, {"a", "b/../../c", "c"}, {"", "a/./b/../c", "a/c"},
                            {"a", "", "a"},       {"x y", "$z", "x y/$z"}, {"a", "...", "a/..."}};
  for (const Sample& sample : samples) {
    auto result = RelPath::resolve(path(sample.base), sample.text);
    EXPECT_EQ(result.has_value(), sample.result != nullptr) << sample.base << " + " << sample.text;
    if (result && sample.result) {
      EXPECT_EQ(result->str(), sample.result) << sample.base << " + " << sample.text;
    }
  }
}

TEST(Path, relative_text_leads_back) {
  const char* names[] = {"", "a", "b", "a/b", "a/b/c", "a/c", "ab", "ab/c", "b/a/c"};
  for (const char* from : names) {
    for (const char* to : names) {
      std::string text = relative_text(path(from), path(to));
      auto there = RelPath::resolve(path(from), text);
      ASSERT_TRUE(there) << from << " -> " << to << ": " << text;
      EXPECT_EQ(there->str(), to) << from << ": " << text;
    }
  }
}

TEST(Path, within_asks_for_whole_components) {
  EXPECT_TRUE(path("a/b").is_within(path("a")));
  EXPECT_TRUE(path("a").is_within(path("a")));
  EXPECT_TRUE(path("a").is_within(path("")));
  EXPECT_FALSE(path("ab").is_within(path("a")));
  EXPECT_FALSE(path("a").is_within(path("a/b")));
}

TEST(Path, style_is_kept) {
  EXPECT_EQ(PathStyle::of("./a").apply("b/c"), "./b/c");
  EXPECT_EQ(PathStyle::of("./a").apply("../c"), "../c");
  EXPECT_EQ(PathStyle::of("a/").apply("b"), "b/");
  EXPECT_EQ(PathStyle::of("a\\b").apply("c/d"), "c\\d");
  EXPECT_EQ(PathStyle::of("a").apply("b"), "b");
}

TEST(Path, marks_tell_tree_and_build_apart) {
  EXPECT_EQ(place_of(path("x"), marked(Space::tree, path("a/b"))), (Place{Space::tree, path("a/b")}));
  EXPECT_EQ(place_of(path("x"), marked(Space::build, path("a")) + "/../c"), (Place{Space::build, path("c")}));
  EXPECT_EQ(place_of(path("x"), "/usr/include").space, Space::outside);
  EXPECT_EQ(place_of(path("x"), "y"), (Place{Space::tree, path("x/y")}));
  EXPECT_EQ(place_of(path("x"), "a\x03").space, Space::outside);
}

TEST(Path, ending_is_of_the_last_component) {
  EXPECT_EQ(ending_of("a.b/c"), "");
  EXPECT_EQ(ending_of("a/b.tar.gz"), ".gz");
  EXPECT_EQ(ending_of(".hidden"), "");
}

TEST(Path, copies_are_equal_and_live_on_by_themselves) {
  RelPath copy, moved;
  {
    RelPath first = path("gauge/tide.c");
    copy = first;
    moved = std::move(first);
    EXPECT_TRUE(first.is_root() || first == copy);  // what is moved from can be used
  }
  EXPECT_EQ(copy.str(), "gauge/tide.c");
  EXPECT_EQ(copy, moved);
  EXPECT_EQ(copy, path("gauge/tide.c"));
  EXPECT_EQ(std::hash<RelPath>{}(copy), std::hash<RelPath>{}(path("gauge/tide.c")));
  const RelPath& same = copy;
  copy = same;
  EXPECT_EQ(copy.name(), "tide.c");
  EXPECT_LT(path("a"), path("b"));
  EXPECT_LT(RelPath(), path("a"));
  EXPECT_EQ(RelPath(), path(""));
}

TEST(Path, copies_are_made_and_dropped_by_several_threads) {
  RelPath shared = path("gauge/tide.c");
  std::vector<std::thread> threads;
  for (int i = 0; i < 4; ++i) {
    threads.emplace_back([&shared] {
      std::vector<RelPath> copies;
      for (int n = 0; n < 20'000; ++n) {
        copies.push_back(shared);
        if (copies.size() > 50) copies.clear();
        ASSERT_EQ(shared.hash(), path("gauge/tide.c").hash());
      }
    });
  }
  for (std::thread& thread : threads) thread.join();
  EXPECT_EQ(shared.str(), "gauge/tide.c");
}

}  // namespace
}  // namespace yc
