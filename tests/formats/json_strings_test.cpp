#include "formats/json/json_strings.h"

#include <gtest/gtest.h>

namespace yc::json {
namespace {

std::string dump(const std::string& bytes) {
  std::string out;
  for (const StringValue& value : string_values(bytes)) {
    for (const std::string& key : value.path) out += key + "/";
    out += "=" + value.text + ";";
  }
  return out;
}

TEST(JsonStrings, values_with_their_keys) {
  const std::vector<std::pair<std::string, std::string>> cases = {
      {"{\"a\": \"x\", \"b\": [\"y\", 1, {\"c\": \"z\"}], \"d\": null}", "a/=x;b/0/=y;b/2/c/=z;"},
      {"// comment\n{ /* \"no\" */ \"a\": \"x\", }", "a/=x;"},
      {"\"alone\"", ""},
      {"[\"listed\"]", "0/=listed;"},
      {"{\"a\": \"q\\\"\\u00e9\\ud83d\\ude00\\n\"}", "a/=q\"\xC3\xA9\xF0\x9F\x98\x80\n;"},
      {"{\"a\": \"x\", broken", "a/=x;"},
      {"{\"a\": \"never closed", ""},
      {"[[[[", ""},
      {"", ""},
  };
  for (const auto& [bytes, expected] : cases) EXPECT_EQ(dump(bytes), expected) << bytes;
  (void)string_values(std::string(100000, '['));
}

TEST(JsonStrings, escapes_are_pieces_of_their_own) {
  std::string bytes = "[\"src\\/tide.c\"]";
  auto values = string_values(bytes);
  ASSERT_EQ(values.size(), 1u);
  TracedText text = traced(bytes, values[0], 0);
  EXPECT_EQ(text.text(), "src/tide.c");
  ASSERT_EQ(text.pieces().size(), 3u);
  EXPECT_EQ(text.pieces()[2].text, "tide.c");
  EXPECT_EQ(bytes.substr(text.pieces()[2].span.begin, 6), "tide.c");
}

TEST(JsonStrings, written_text_is_escaped_or_refused) {
  EXPECT_EQ(escaped("a\"b\\c\n").value(), "a\\\"b\\\\c\\n");
  EXPECT_EQ(escaped("gr\xC3\xBC"
                    "n")
                .value(),
            "gr\xC3\xBC"
            "n");
  EXPECT_FALSE(escaped("not utf-8 \xff"));
}

}  // namespace
}  // namespace yc::json
