#include "base/utf16.h"

#include <gtest/gtest.h>

namespace yc {
namespace {

TEST(Utf16, goes_there_and_back) {
  for (std::string text : {"", "tide", "P\u00e4gel \u6f6e", "\U0001F30A!", "a\nb"}) {
    auto wide = to_utf16(text);
    ASSERT_TRUE(wide) << text;
    auto back = read_utf16("\xFF\xFE" + *wide);
    ASSERT_TRUE(back) << text;
    EXPECT_EQ(back->text, text);
    ASSERT_EQ(back->offsets.size(), text.size() + 1);
    EXPECT_EQ(back->offsets.back(), wide->size() + 2);
  }
}

TEST(Utf16, knows_where_each_byte_stands) {
  auto text = read_utf16("\xFF\xFE" + *to_utf16("a\u00e4\U0001F30Ab"));
  ASSERT_TRUE(text);
  EXPECT_EQ(text->offsets, (std::vector<std::uint32_t>{2, 4, 4, 6, 6, 6, 6, 10, 12}));
}

TEST(Utf16, refuses_what_is_not_well_formed) {
  using namespace std::string_view_literals;
  for (std::string_view bytes : {"a\0b\0"sv, "\xFE\xFF\0a"sv, "\xFF\xFE\x61"sv, "\xFF\xFE\x00\xD8"sv,
                                 "\xFF\xFE\x00\xDC\x61\x00"sv, "\xFF\xFE\x00\xD8\x61\x00"sv})
    EXPECT_FALSE(read_utf16(bytes));
  for (std::string_view text : {"\xC3"sv, "\xFF"sv, "\xC0\x80"sv, "\xED\xA0\x80"sv, "\xE2\x28\xA1"sv})
    EXPECT_FALSE(to_utf16(text));
}

}  // namespace
}  // namespace yc
