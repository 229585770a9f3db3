// Members of JSON arrays.
#include "formats/json/json_lists.h"

#include <gtest/gtest.h>

namespace yc::test {
namespace {

Span word_in(std::string_view bytes, std::string_view word) {
  auto at = static_cast<std::uint32_t>(bytes.find(word));
  return {at, at + static_cast<std::uint32_t>(word.size())};
}

std::string with(std::string bytes, std::string_view word, std::string_view text) {
  Span at = word_in(bytes, word);
  return bytes.insert(at.end, json::beside(bytes, at, text).value_or("?"));
}

std::string taken_out(std::string bytes, std::string_view word) {
  auto gone = json::without(bytes, word_in(bytes, word));
  return gone ? bytes.erase(gone->begin, gone->size()) : "?";
}

TEST(JsonLists, a_new_member_stands_as_its_neighbour_does) {
  EXPECT_EQ(with(R"(["a", "b"])", R"("a")", "x"), R"(["a", "x", "b"])");
  EXPECT_EQ(with("[\n\t\"a\",\n\t\"b\"\n]", "\"a\"", "x"), "[\n\t\"a\",\n\t\"x\",\n\t\"b\"\n]");
  EXPECT_EQ(with("[\r\n  \"a\"\r\n]", "\"a\"", "x"), "[\r\n  \"a\",\r\n  \"x\"\r\n]");
  EXPECT_EQ(with("{\"f\": [\"a\"]}", "\"a\"", "q\"\\"), "{\"f\": [\"a\", \"q\\\"\\\\\"]}");
  EXPECT_EQ(with("[\"a\"]", "\"a\"", "\xff"), "[\"a\"?]") << "what is no UTF-8 cannot be said";
}

TEST(JsonLists, a_member_goes_with_one_comma) {
  EXPECT_EQ(taken_out(R"(["a", "b", "c"])", R"("a")"), R"(["b", "c"])");
  EXPECT_EQ(taken_out(R"(["a", "b", "c"])", R"("b")"), R"(["a", "c"])");
  EXPECT_EQ(taken_out(R"(["a", "b", "c"])", R"("c")"), R"(["a", "b"])");
  EXPECT_EQ(taken_out("[\n  \"a\",\n  \"b\"\n]", "\"b\""), "[\n  \"a\"\n]");
  EXPECT_EQ(taken_out("[\n  \"a\",\n  \"b\"\n]", "\"a\""), "[\n  \"b\"\n]");
  EXPECT_EQ(taken_out(R"(["a"])", R"("a")"), "?") << "an empty list may mean something else";
  EXPECT_EQ(taken_out(R"({"k": "a", "l": 1})", R"("a")"), "?") << "the value of a key";
  EXPECT_EQ(taken_out(R"(["a")", R"("a")"), "?") << "no whole list";
}

}  // namespace
}  // namespace yc::test
