#include "base/text.h"

#include <gtest/gtest.h>

#include <vector>

namespace yc {
namespace {

TEST(Text, letters_blanks_and_parts) {
  EXPECT_EQ(lowered("Tide_GAUGE \xC3\x84"), "tide_gauge \xC3\x84");
  EXPECT_TRUE(is_blank('\r'));
  EXPECT_FALSE(is_blank('\n'));
  EXPECT_EQ(cut("tide gauge", {5, 10}), "gauge");
  EXPECT_EQ(trimmed("  a b\r\n"), "a b");
  EXPECT_EQ(trimmed(" \n"), "");
  EXPECT_EQ(trimmed("--a-", "-"), "a");
  EXPECT_EQ(span_of(3, 7), (Span{3, 7}));
}

TEST(Text, lines) {
  std::string_view text = "a\n  bc\r\n\nd";
  EXPECT_EQ(line_begin(text, 0), 0u);
  EXPECT_EQ(line_begin(text, 2), 2u);
  EXPECT_EQ(line_begin(text, 5), 2u);
  EXPECT_EQ(line_begin(text, text.size()), 9u);
  EXPECT_EQ(indent_at(text, 5), "  ");
  EXPECT_EQ(indent_at(text, 0), "");
  std::vector<std::pair<std::string, std::size_t>> lines;
  for_each_line(text, [&](std::string_view line, std::size_t begin) { lines.emplace_back(line, begin); });
  EXPECT_EQ(lines,
            (std::vector<std::pair<std::string, std::size_t>>{{"a", 0}, {"  bc", 2}, {"", 8}, {"d", 9}}));
}

}  // namespace
}  // namespace yc
