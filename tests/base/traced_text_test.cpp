#include "base/traced_text.h"

#include <gtest/gtest.h>

namespace yc {
namespace {

TracedText at(const std::string& text, std::uint32_t offset, FileIndex file = 1) {
  return TracedText::literal(text, file, {offset, offset + static_cast<std::uint32_t>(text.size())});
}

// What each piece is and where it stands: "src@1:4-7 c@-".
std::string trace(const TracedText& text) {
  std::string out;
  for (const Piece& piece : text.pieces()) {
    if (!out.empty()) out += ' ';
    if (piece.nature == Piece::Nature::hole) {
      out += "hole";
    } else if (!piece.has_origin()) {
      out += piece.text + "@-";
    } else {
      out += piece.text + "@" + std::to_string(piece.file) + ":" + std::to_string(piece.span.begin) + "-" +
             std::to_string(piece.span.end);
    }
  }
  return out;
}

TEST(TracedText, neighbouring_literals_join_and_others_do_not) {
  TracedText text = at("sr", 4);
  text.append(at("c", 6));
  EXPECT_EQ(trace(text), "src@1:4-7");
  text.append(at("x", 9));
  EXPECT_EQ(trace(text), "src@1:4-7 x@1:9-10");
  text.append(at("y", 10, 2));
  EXPECT_EQ(trace(text), "src@1:4-7 x@1:9-10 y@2:10-11");
}

TEST(TracedText, cutting_keeps_the_place_of_each_part) {
  TracedText text = at("src/", 10);
  text.append(at("tide.c", 40));
  EXPECT_EQ(trace(text.substr(2, 4)), "c/@1:12-14 ti@1:40-42");
  EXPECT_EQ(trace(text.substr(4)), "tide.c@1:40-46");
  EXPECT_EQ(trace(text.substr(100)), "");
}

TEST(TracedText, part_of_an_escaped_piece_has_no_place) {
  TracedText escaped = TracedText::literal("$", 1, {5, 7});
  EXPECT_EQ(trace(escaped), "$@1:5-7");
  TracedText two = TracedText::literal("a b", 1, {5, 9});
  EXPECT_EQ(trace(two.substr(0, 1)), "a@-");
}

TEST(TracedText, words_keep_holes_with_the_text_they_touch) {
  TracedText text = at("a.c gen-", 0);
  text.append(TracedText::hole());
  text.append(at(".c  b.c", 20));
  auto words = text.words();
  ASSERT_EQ(words.size(), 3u);
  EXPECT_EQ(trace(words[0]), "a.c@1:0-3");
  EXPECT_EQ(trace(words[1]), "gen-@1:4-8 hole .c@1:20-22");
  EXPECT_EQ(trace(words[2]), "b.c@1:24-27");
  EXPECT_EQ(words[1].pattern_text(), "gen-*.c");
}

TEST(TracedText, splitting_keeps_empty_members) {
  auto parts = at("a;;b", 0).split(';');
  ASSERT_EQ(parts.size(), 3u);
  EXPECT_TRUE(parts[1].empty());
  EXPECT_EQ(trace(parts[2]), "b@1:3-4");
}

TEST(TracedText, passage_is_remembered_outermost_first) {
  TracedText text = at("src", 0).through({1, {50, 54}}).through({2, {8, 12}});
  ASSERT_EQ(text.pieces().size(), 1u);
  const auto& via = text.pieces()[0].via;
  ASSERT_EQ(via.size(), 2u);
  EXPECT_EQ(via[0].file, 2);
  EXPECT_EQ(via[1].file, 1);
  EXPECT_EQ(text.first_origin().file, 2);
}

TEST(TracedText, wildcards_of_known_text_are_escaped_in_a_pattern) {
  TracedText text = at("a[1]*", 0);
  text.append(TracedText::hole());
  EXPECT_EQ(text.pattern_text(), "a\\[1]\\**");
}

TEST(Cutter, parts_are_those_that_substr_gives) {
  TracedText text = at("src/", 4);
  text.append(TracedText::hole());
  text.append(at("main", 20));
  text.append(at(".c", 40, 2));
  Cutter cutter(text);
  for (std::size_t from = 0; from <= text.size() + 1; ++from) {
    for (std::size_t count = 0; count <= text.size() + 1; ++count)
      EXPECT_EQ(trace(cutter.part(from, count)), trace(text.substr(from, count))) << from << " " << count;
    EXPECT_EQ(trace(cutter.part(from)), trace(text.substr(from))) << from;
  }
}

TEST(TracedText, through_many_passages_is_through_each_from_the_inside) {
  Passages passages;
  passages.enclose({1, {30, 34}});
  passages.enclose({1, {60, 64}});
  TracedText text = at("tide.c", 4);
  TracedText each = text.through({1, {30, 34}}).through({1, {60, 64}});
  TracedText all = text.through(passages, 3);
  EXPECT_EQ(all.pieces().front().via, each.pieces().front().via);
  EXPECT_EQ(all.pieces().front().style, 3);
}

TEST(TracedText, what_is_automatic_stays_so_in_its_parts) {
  TracedText text = at("src/main.c", 4);
  EXPECT_FALSE(text.is_automatic());
  text.mark_automatic();
  EXPECT_TRUE(text.substr(4, 2).is_automatic());
  TracedText both = at("-o", 0);
  both.append(text);
  EXPECT_TRUE(both.is_automatic());
  EXPECT_FALSE(both.substr(0, 2).is_automatic());
}

TEST(TracedText, knows_its_size_whatever_is_done_with_it) {
  TracedText text = at("src/", 0);
  text.append(TracedText::hole());
  text.append_char('c', 1, 9);
  text.append_char('d', 1, 10);
  EXPECT_EQ(text.size(), text.text().size());
  TracedText copy = text, taken = std::move(text);
  EXPECT_EQ(copy.size(), 7U);
  EXPECT_EQ(taken.size(), 7U);
  text = TracedText();  // what was moved from may be used again
  EXPECT_TRUE(text.empty());
  text.append(taken);
  EXPECT_EQ(TracedText::of(text.pieces()).size(), 7U);
  EXPECT_EQ(text.substr(2, 3).size(), 3U);
  EXPECT_EQ(text.through({1, {0, 3}}).size(), 7U);
}

}  // namespace
}  // namespace yc
