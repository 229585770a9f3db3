#include "base/utf8.h"

#include <gtest/gtest.h>

#include <string>

namespace yc {
namespace {

TEST(Utf8, takes_what_is_well_formed) {
  for (const std::string text : {"", "tide", "\xC3\xA9", "\xE2\x82\xAC", "\xF0\x9F\x8C\x8A",
                                 "a\xEF\xBB\xBF"
                                 "b"})
    EXPECT_TRUE(is_utf8(text)) << text;
  EXPECT_EQ(utf8_length("\xF0\x9F\x8C\x8A tide"), 4u);
  EXPECT_EQ(utf8_length("tide"), 1u);
}

TEST(Utf8, refuses_what_is_not) {
  // Cut off, alone, too long, halves of pairs, behind the last character.
  for (const std::string text : {"\xC3", "\xE2\x82", "\x80", "\xFF", "\xC0\x80", "\xE0\x80\x80",
                                 "\xED\xA0\x80", "\xF4\x90\x80\x80", "\xF0\x80\x80\x80"})
    EXPECT_FALSE(is_utf8("tide" + text)) << text;
}

}  // namespace
}  // namespace yc
