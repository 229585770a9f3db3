#include "base/name_search.h"

#include <gtest/gtest.h>

#include <random>

namespace yc {
namespace {

TEST(NameSearch, finds_names_wherever_they_stand) {
  NameSearch search({"tide", "level.h", "x"});
  for (const char* text : {"tide", "a tide b", "riptide", "\"level.h\"", "ttide", "titide", "fox"})
    EXPECT_TRUE(search.finds_any(text)) << text;
  for (const char* text : {"", "t", "tid", "level", "level_h", "evel.h", "tid e"})
    EXPECT_FALSE(search.finds_any(text)) << text;
}

TEST(NameSearch, knows_empty_lists_and_names) {
  EXPECT_FALSE(NameSearch({}).finds_any("anything"));
  EXPECT_TRUE(NameSearch({"tide", ""}).finds_any(""));
  EXPECT_TRUE(NameSearch({std::string("a\0b", 3)}).finds_any(std::string_view("xa\0b", 4)));
}

// Held against the plain way on small alphabets, where names overlap each other and themselves.
TEST(NameSearch, finds_what_a_search_for_each_finds) {
  std::mt19937 rng(7);
  auto text_of = [&](std::size_t size) {
    std::string out;
    for (std::size_t i = 0; i < size; ++i) out += static_cast<char>('a' + rng() % 3);
    return out;
  };
  std::size_t found = 0;
  for (int round = 0; round < 3000; ++round) {
    std::vector<std::string> names;
    for (std::size_t i = 0; i < 1 + rng() % 4; ++i) names.push_back(text_of(1 + rng() % 9));
    std::string text = text_of(rng() % 40);
    bool wanted = false;
    for (const std::string& name : names) wanted = wanted || text.find(name) != std::string::npos;
    ASSERT_EQ(NameSearch(names).finds_any(text), wanted) << text << " for " << names.front();
    found += wanted;
  }
  EXPECT_GT(found, 300U);
  EXPECT_LT(found, 2700U);
}

// Names that are found by many different bytes take another way than few.
TEST(NameSearch, finds_one_of_many_names) {
  std::vector<std::string> names;
  for (char c = 'A'; c <= 'Z'; ++c) names.push_back(std::string("tide") + c);
  NameSearch search(names);
  for (const std::string& name : names) {
    EXPECT_TRUE(search.finds_any("the " + name + " of today"));
    EXPECT_TRUE(search.finds_any(name));
    EXPECT_FALSE(search.finds_any(name.substr(0, 4) + " " + name.substr(4)));
  }
}

}  // namespace
}  // namespace yc
