#include "base/edit.h"

#include <gtest/gtest.h>

#include <random>

namespace yc {
namespace {

TEST(Edits, apply_in_order_whatever_order_they_came_in) {
  FileEdits edits;
  EXPECT_TRUE(edits.add({5, 8}, "C"));
  EXPECT_TRUE(edits.add({0, 1}, "AAA"));
  EXPECT_TRUE(edits.add({4, 4}, "+"));
  EXPECT_EQ(edits.apply("a bb ccc d"), "AAA bb+ C d");
}

TEST(Edits, same_edit_twice_counts_once) {
  FileEdits edits;
  EXPECT_TRUE(edits.add({0, 1}, "x"));
  EXPECT_TRUE(edits.add({0, 1}, "x"));
  EXPECT_EQ(edits.items().size(), 1U);
}

TEST(Edits, overlap_is_refused) {
  FileEdits edits;
  EXPECT_TRUE(edits.add({2, 6}, "x"));
  EXPECT_FALSE(edits.add({2, 6}, "y"));
  EXPECT_FALSE(edits.add({5, 7}, "y"));
  EXPECT_FALSE(edits.add({0, 3}, "y"));
  EXPECT_FALSE(edits.add({3, 3}, "y"));
  EXPECT_TRUE(edits.add({6, 6}, "z"));
  EXPECT_FALSE(edits.add({6, 6}, "w"));
  EXPECT_EQ(edits.apply("01234567"), "01xz67");
}

TEST(Edits, offsets_map_there_and_back) {
  FileEdits edits;
  ASSERT_TRUE(edits.add({2, 4}, "xxxx"));
  ASSERT_TRUE(edits.add({6, 6}, "yy"));
  EXPECT_EQ(edits.map(0), 0U);
  EXPECT_EQ(edits.map(2), 2U);
  EXPECT_EQ(edits.map(5), 7U);
  EXPECT_EQ(edits.map(6), 10U);  // a construct at an insertion comes after what was inserted
  EXPECT_EQ(edits.unmap(7), 5U);
  EXPECT_EQ(edits.unmap(10), 6U);
  EXPECT_FALSE(edits.unmap(3).has_value());
  EXPECT_FALSE(edits.unmap(9).has_value());
}

TEST(FileEdits, pairs_stand_within_each_other) {
  FileEdits edits;
  EXPECT_TRUE(edits.add({2, 2}, "f(", "f"));
  EXPECT_TRUE(edits.add({4, 4}, ")", "f"));
  EXPECT_TRUE(edits.add({2, 2}, "g(", "g"));
  EXPECT_TRUE(edits.add({4, 4}, ")", "g"));
  EXPECT_TRUE(edits.add({4, 4}, ")", "g")) << "the same twice counts once";
  EXPECT_FALSE(edits.add({4, 4}, "x")) << "what is no pair has no place beside them";
  EXPECT_EQ(edits.apply("0123456"), "01f(g(23))456");
}

// Whatever was added and taken away again, offsets lead where the text of the edits says.
TEST(Edits, offsets_follow_many_edits) {
  std::mt19937 random(5);
  std::string old_text(300, '.');
  for (std::size_t i = 0; i < old_text.size(); ++i) old_text[i] = static_cast<char>('a' + i % 26);
  for (int round = 0; round < 200; ++round) {
    FileEdits edits;
    std::vector<Edit> added;
    for (int i = 0; i < 40; ++i) {
      auto begin = static_cast<std::uint32_t>(random() % 290);
      Span span{begin, begin + static_cast<std::uint32_t>(random() % 6)};
      std::string text(random() % 5, static_cast<char>('A' + random() % 26));
      if (edits.add(span, text)) added.push_back({{}, span, text});
      if (random() % 5 == 0 && !added.empty()) {
        Edit gone = added[random() % added.size()];
        edits.remove(gone.span, gone.text);
      }
    }
    std::string new_text = edits.apply(old_text);
    // Bytes of the old text are small letters, those that edits brought are capitals.
    for (std::uint32_t at = 0; at < new_text.size(); ++at) {
      bool is_brought = new_text[at] < 'a';
      const FileEdits::Item* by = edits.bringer(at);
      ASSERT_EQ(by != nullptr, is_brought) << round << ": " << at;
      if (by) {
        EXPECT_NE(by->text.find(new_text[at]), std::string::npos);
      }
      auto old_at = edits.unmap(at);
      ASSERT_EQ(old_at.has_value(), !is_brought);
      if (!old_at) continue;
      ASSERT_EQ(old_text[*old_at], new_text[at]);
      ASSERT_EQ(edits.map(*old_at), at);
    }
  }
}

}  // namespace
}  // namespace yc
