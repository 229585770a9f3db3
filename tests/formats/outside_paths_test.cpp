#include "formats/outside_paths.h"

#include <gtest/gtest.h>

namespace yc::test {
namespace {

std::string respelled(const std::string& from, const std::string& to, const std::string& text) {
  return outside_path(RelPath::from_normal(from), RelPath::from_normal(to), text).value_or("as it is");
}

TEST(OutsidePaths, climb_from_the_new_folder_to_the_same_place) {
  EXPECT_EQ(respelled("win/new", "win", "../../../ogg/include"), "../../ogg/include");
  EXPECT_EQ(respelled("win", "win/new", "../../ogg/include"), "../../../ogg/include");
  EXPECT_EQ(respelled("win", "", "../../ogg"), "../ogg");
  EXPECT_EQ(respelled("", "win", "../ogg"), "../../ogg");
  EXPECT_EQ(respelled("", "a/b/c", ".."), "../../../..");
}

TEST(OutsidePaths, keep_the_manner_of_the_old_text) {
  EXPECT_EQ(respelled("win", "win/new", "..\\..\\ogg\\include"), "..\\..\\..\\ogg\\include");
  EXPECT_EQ(respelled("win", "win/new", "../../ogg/"), "../../../ogg/");
}

TEST(OutsidePaths, leave_what_stays_within_or_is_no_such_path) {
  EXPECT_EQ(respelled("win/new", "win", "../../inc"), "as it is");
  EXPECT_EQ(respelled("win", "old", "../../ogg"), "as it is") << "as deep as before";
  EXPECT_EQ(respelled("win", "win/new", "/usr/include"), "as it is");
  EXPECT_EQ(respelled("win", "win/new", "ogg/../../../x"), "as it is");
  EXPECT_EQ(respelled("win", "win/new", "../../ogg/../x"), "as it is");
  EXPECT_EQ(respelled("win", "win/new", "..."), "as it is");
  EXPECT_EQ(respelled("win", "win/new", ""), "as it is");
}

}  // namespace
}  // namespace yc::test
