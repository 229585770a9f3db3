// Scopes of a CMake run: what is set within is gone behind, and what is set outside from within is not seen
// there.
#include "formats/cmake/cmake_variables.h"

#include <gtest/gtest.h>

namespace yc::test {
namespace {

std::string text(const TracedText* value) {
  return value ? value->text() : "unset";
}

TEST(CMakeVariables, scopes_see_outwards_and_end) {
  cmake::Variables variables;
  variables.set("level", TracedText::plain("one"));
  variables.enter();
  EXPECT_EQ(text(variables.find("level")), "one");
  variables.set("level", TracedText::plain("two"));
  variables.set("own", TracedText::plain("x"));
  variables.enter();
  EXPECT_EQ(text(variables.find("level")), "two");
  variables.unset("level");
  EXPECT_EQ(text(variables.find("level")), "unset");
  variables.leave();
  EXPECT_EQ(text(variables.find("level")), "two");
  variables.leave();
  EXPECT_EQ(text(variables.find("level")), "one");
  EXPECT_EQ(text(variables.find("own")), "unset");
}

// set(… PARENT_SCOPE)
TEST(CMakeVariables, what_is_set_outside_is_not_seen_within) {
  cmake::Variables variables;
  variables.set("level", TracedText::plain("one"));
  variables.enter();
  variables.set_outside("level", TracedText::plain("two"));
  variables.set_outside("fresh", TracedText::plain("new"));
  EXPECT_EQ(text(variables.find("level")), "one");
  EXPECT_EQ(text(variables.find("fresh")), "unset");
  EXPECT_EQ(text(variables.find_outside("level")), "two");
  variables.set("level", TracedText::plain("three"));
  EXPECT_EQ(text(variables.find_outside("level")), "two");
  variables.leave();
  EXPECT_EQ(text(variables.find("level")), "two");
  EXPECT_EQ(text(variables.find("fresh")), "new");
}

TEST(CMakeVariables, a_list_that_is_added_to_is_the_scopes_own) {
  cmake::Variables variables;
  variables.set("list", TracedText::plain("a"));
  variables.enter();
  variables.at("list").append(TracedText::plain(";b"));
  variables.at("other").append(TracedText::plain("c"));
  EXPECT_EQ(text(variables.find("list")), "a;b");
  variables.leave();
  EXPECT_EQ(text(variables.find("list")), "a");
  EXPECT_EQ(text(variables.find("other")), "unset");
  variables.unset("list");
  variables.at("list").append(TracedText::plain("d"));
  EXPECT_EQ(text(variables.find("list")), "d");
}

}  // namespace
}  // namespace yc::test
