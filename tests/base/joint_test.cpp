#include "base/joint.h"

#include <gtest/gtest.h>

namespace yc {
namespace {

constexpr FileIndex kFile = 3;

TracedText literal(const std::string& text, std::uint32_t at) {
  return TracedText::literal(text, kFile, {at, at + static_cast<std::uint32_t>(text.size())});
}

TEST(Joint, is_where_parts_stand_side_by_side) {
  // "${name}.c" at 20, where name came from a list at 5.
  TracedText text = literal("low", 5).through({kFile, {20, 27}});
  text.append(literal(".c", 27));
  auto joint = joint_of(text);
  ASSERT_TRUE(joint);
  EXPECT_EQ(joint->file, kFile);
  EXPECT_EQ(joint->whole, (Span{20, 29}));
  EXPECT_EQ(joint->first, (Span{20, 27}));
  EXPECT_TRUE(joint->is_expanded);
}

TEST(Joint, is_found_below_the_expansions_that_all_parts_share) {
  TracedText text = literal("low", 5).through({kFile, {20, 27}});
  text.append(literal(".c", 27));
  auto joint = joint_of(text.through({kFile, {90, 100}}).through({kFile, {200, 210}}));
  ASSERT_TRUE(joint);
  EXPECT_EQ(joint->whole, (Span{20, 29}));
}

TEST(Joint, begins_with_literal_text_or_an_expansion) {
  TracedText text = literal("test-", 15);
  text.append(literal("low", 5).through({kFile, {20, 27}}));
  auto joint = joint_of(text);
  ASSERT_TRUE(joint);
  EXPECT_FALSE(joint->is_expanded);
  EXPECT_EQ(joint->whole, (Span{15, 27}));
}

TEST(Joint, is_nowhere_for_lists_and_for_parts_that_do_not_touch) {
  EXPECT_FALSE(joint_of(literal("low.c", 5)));
  // Both parts come through one expansion: a list that is written elsewhere.
  TracedText list = literal("low", 5);
  list.append(literal(".c", 40));
  EXPECT_FALSE(joint_of(list.through({kFile, {20, 27}})));
  TracedText far = literal("low", 5).through({kFile, {20, 27}});
  far.append(literal(".c", 60));
  EXPECT_FALSE(joint_of(far));
  TracedText made = literal("low", 5).through({kFile, {20, 27}});
  made.append(TracedText::plain(".c"));
  EXPECT_FALSE(joint_of(made)) << "what a tool adds stands nowhere";
}

}  // namespace
}  // namespace yc
