// The parts that a server is made of: frames, places in texts, names of files, what an editor would save.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "serve/documents.h"
#include "serve/framing.h"
#include "serve/inbox.h"
#include "serve/places.h"
#include "serve/saved_text.h"
#include "serve/uris.h"

namespace yc::serve {
namespace {

// A stream that gives a few bytes at a time.
FrameReader::More stream(std::string bytes, std::size_t at_once = 7) {
  return [bytes = std::move(bytes), at_once, at = std::size_t{0}](char* into, std::size_t most) mutable {
    std::size_t size = std::min({most, at_once, bytes.size() - at});
    bytes.copy(into, size, at);
    at += size;
    return size;
  };
}

std::vector<std::string> bodies(const std::string& bytes) {
  std::vector<std::string> out;
  FrameReader frames(stream(bytes));
  while (auto frame = frames.next())
    out.push_back(frame->problem.empty() ? frame->body : "! " + frame->problem);
  return out;
}

TEST(Frames, are_taken_one_after_the_other) {
  EXPECT_THAT(bodies(framed("{}") + framed("[1]") + framed("")), testing::ElementsAre("{}", "[1]", ""));
}

TEST(Frames, headers_come_in_any_order_and_case) {
  EXPECT_THAT(
      bodies("content-type: application/vscode-jsonrpc; charset=utf-8\r\nCONTENT-LENGTH:  2 \r\n\r\n{}"),
      testing::ElementsAre("{}"));
}

TEST(Frames, garbage_is_told_and_passed_over) {
  std::vector<std::string> found = bodies("hello\r\n\r\n" + std::string(20'000, 'x') + framed("{}"));
  ASSERT_GE(found.size(), 2u);
  EXPECT_THAT(found.front(), testing::StartsWith("! "));
  EXPECT_EQ(found.back(), "{}");
}

TEST(Frames, half_a_message_costs_no_more_than_the_one_it_swallows) {
  EXPECT_EQ(bodies("Content-Length: 20\r\n\r\n{\"half\"" + framed("{\"a\":1}") + framed("{\"b\":2}")).back(),
            "{\"b\":2}");
}

TEST(Frames, a_length_that_is_none_is_told) {
  EXPECT_THAT(bodies("Content-Length: -3\r\n\r\n" + framed("{}")), testing::Contains("{}"));
  EXPECT_THAT(bodies("Content-Length: 99999999999999999999999\r\n\r\n" + framed("{}")),
              testing::Contains("{}"));
}

TEST(Frames, a_stream_that_ends_in_a_message_gives_nothing_more) {
  EXPECT_TRUE(bodies("Content-Length: 10\r\n\r\n{}").empty());
}

struct Counted {
  std::string text;
  Encoding encoding;
  std::uint32_t offset;
  Place place;
};

TEST(Places, are_counted_as_editors_count) {
  const std::vector<Counted> all = {
      {"tide\nlevel", Encoding::utf16, 7, {1, 2}},
      {"tide\r\nlevel", Encoding::utf16, 8, {1, 2}},
      {"tide\rlevel", Encoding::utf16, 7, {1, 2}},
      {"\xC3\xA9tale", Encoding::utf16, 2, {0, 1}},  // é
      {"\xC3\xA9tale", Encoding::utf8, 2, {0, 2}},
      {"\xF0\x9F\x8C\x8A tide", Encoding::utf16, 5, {0, 3}},  // a wave, which takes a pair
      {"\xF0\x9F\x8C\x8A tide", Encoding::utf8, 5, {0, 5}},
      {"\xEF\xBB\xBFtide", Encoding::utf16, 3, {0, 0}},  // a byte-order mark is not shown
      {"\xE9tale", Encoding::utf16, 1, {0, 1}},          // Latin-1
      {"\xE9tale", Encoding::utf8, 1, {0, 2}},
      {std::string("\xFF\xFEt\0\n\0i\0", 8), Encoding::utf16, 6, {1, 0}},
  };
  for (const Counted& one : all) {
    TextPlaces places(one.text, one.encoding);
    EXPECT_EQ(places.place_of(one.text, one.offset).line, one.place.line) << one.text;
    EXPECT_EQ(places.place_of(one.text, one.offset).character, one.place.character) << one.text;
    EXPECT_EQ(places.offset_of(one.text, one.place), one.offset) << one.text;
  }
}

TEST(Places, what_lies_behind_the_end_is_the_end) {
  std::string text = "ebb\nflood";
  TextPlaces places(text, Encoding::utf16);
  EXPECT_EQ(places.offset_of(text, {0, 99}), 3u);
  EXPECT_EQ(places.offset_of(text, {9, 0}), text.size());
  EXPECT_EQ(places.place_of(text, 4000).character, 5u);
}

TEST(Uris, of_paths_and_back) {
  for (const std::string path : {"/work/tide gauge", "/a%b/c#d?e", "/\xC3\xA9tale/\xFF", "/new\nline"})
    EXPECT_EQ(path_of(uri_of(path)), path);
  EXPECT_EQ(uri_of("/a b"), "file:///a%20b");
  EXPECT_EQ(path_of("file://localhost/tide"), "/tide");
  EXPECT_EQ(path_of("file:///tide/../level/"), "/level");
}

TEST(Uris, that_name_no_file_here) {
  for (const char* uri : {"untitled:Untitled-1", "file://elsewhere/tide", "file:///a%2", "file:///a%zz",
                          "file:///a%00b", "tide"})
    EXPECT_FALSE(path_of(uri)) << uri;
}

TEST(SavedTexts, keep_what_an_editor_does_not_show) {
  EXPECT_EQ(as_saved("\xEF\xBB\xBFtide", "level"), "\xEF\xBB\xBFlevel");
  EXPECT_EQ(as_saved("ebb\r\nflood\r\n", "ebb\nflood\n"), "ebb\r\nflood\r\n");
  EXPECT_EQ(as_saved("ebb\nflood\r\n", "ebb\nflood\n"), "ebb\nflood\n");
  EXPECT_EQ(as_saved(std::string("\xFF\xFEt\0", 4), "ti"), std::string("\xFF\xFEt\0i\0", 6));
  EXPECT_EQ(as_saved("\xE9tale", "\xC3\xA9tale"), "\xE9tale");
}

TEST(OpenDocuments, take_changes_one_after_the_other) {
  Documents documents;
  documents.open("/tide.c", {"file:///tide.c", 1,
                             std::make_shared<const std::string>("#include \"a.h\"\n\xF0\x9F\x8C\x8A!\n")});
  auto change = [](int line, int from, int to, const char* text) {
    return nlohmann::json{
        {"range",
         {{"start", {{"line", line}, {"character", from}}}, {"end", {{"line", line}, {"character", to}}}}},
        {"text", text}};
  };
  nlohmann::json changes = {change(0, 10, 11, "level"), change(1, 2, 3, "?"), change(0, 0, 0, "//\n")};
  ASSERT_TRUE(documents.change("/tide.c", 2, changes, Encoding::utf16));
  EXPECT_EQ(*documents.find("/tide.c")->text, "//\n#include \"level.h\"\n\xF0\x9F\x8C\x8A?\n");
  EXPECT_EQ(documents.find("/tide.c")->version, 2);
  ASSERT_TRUE(documents.change("/tide.c", 3, {{{"text", "all"}}}, Encoding::utf16));
  EXPECT_EQ(*documents.find("/tide.c")->text, "all");
  EXPECT_FALSE(documents.change("/other.c", 1, changes, Encoding::utf16));
}

TEST(Inboxes, know_what_is_cancelled_before_its_turn) {
  Inbox inbox(stream(framed(R"({"id":7,"method":"tide"})") +
                     framed(R"({"method":"$/cancelRequest","params":{"id":7}})") + framed("no json")));
  Message message;
  ASSERT_EQ(inbox.take(message, std::chrono::seconds(10)), Inbox::Came::message);
  EXPECT_EQ(message.json["method"], "tide");
  Message next;
  ASSERT_EQ(inbox.take(next, std::chrono::seconds(10)),
            Inbox::Came::message);  // the cancellation came before it
  EXPECT_FALSE(next.problem.empty());
  EXPECT_TRUE(inbox.is_cancelled(7));
  inbox.forget(7);
  EXPECT_FALSE(inbox.is_cancelled(7));
  EXPECT_EQ(inbox.take(next, std::chrono::seconds(10)), Inbox::Came::end);
}

}  // namespace
}  // namespace yc::serve
