// What is in force of that which was proposed.
#include "plan/attempts.h"

#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

Proposal edit_of(const char* file, Span span, const char* text) {
  return {{Edit{at(file), span, text}}, ""};
}

TEST(Attempts, go_on_one_way_a_round) {
  Attempts attempts;
  Problem problem = Problem::of_reference(7);
  int asked = 0;
  auto make = [&] {
    ++asked;
    return std::vector<Proposal>{edit_of("Makefile", {3, 5}, "a"), edit_of("Makefile", {3, 5}, "b")};
  };
  EXPECT_TRUE(attempts.advance(problem, true, make));
  EXPECT_FALSE(attempts.advance(problem, true, make)) << "many may report one problem";
  ASSERT_TRUE(attempts.find(problem));
  EXPECT_EQ(attempts.find(problem)->way().edits.front().text, "a");
  EXPECT_TRUE(attempts.find(problem)->likely);
  attempts.begin_round();
  EXPECT_TRUE(attempts.advance(problem));
  EXPECT_EQ(attempts.find(problem)->way().edits.front().text, "b");
  attempts.begin_round();
  EXPECT_TRUE(attempts.advance(problem)) << "the second is taken back";
  EXPECT_FALSE(attempts.find(problem)->active) << "there is no third";
  attempts.begin_round();
  EXPECT_FALSE(attempts.advance(problem));
  EXPECT_EQ(asked, 1);
}

TEST(Attempts, a_problem_without_ways_is_given_up) {
  Attempts attempts;
  EXPECT_FALSE(attempts.advance(Problem::of_gain(at("a.c")), false, [] { return std::vector<Proposal>(); }));
  EXPECT_FALSE(attempts.find(Problem::of_gain(at("a.c")))->active);
  EXPECT_EQ(attempts.find(Problem::of_pattern(1)), nullptr);
}

TEST(Attempts, who_edits_a_place_is_to_blame) {
  Attempts attempts;
  attempts.add(Problem::of_reference(1),
               std::vector<Proposal>{edit_of("Makefile", {3, 8}, "x"), edit_of("Makefile", {20, 22}, "y")},
               false);
  attempts.add(Problem::of_reference(2), std::vector<Proposal>{edit_of("Makefile", {30, 31}, "z"), {}},
               false);
  attempts.add(Problem::of_reference(3), std::vector<Proposal>{edit_of("other.mk", {3, 8}, "x"), {}}, false);
  attempts.begin_round();
  EXPECT_TRUE(attempts.blame(at("Makefile"), {7, 9}));
  EXPECT_EQ(attempts.find(Problem::of_reference(1))->next, 1u);
  EXPECT_EQ(attempts.find(Problem::of_reference(2))->next, 0u);
  EXPECT_EQ(attempts.find(Problem::of_reference(3))->next, 0u);
  attempts.begin_round();
  EXPECT_FALSE(attempts.blame(at("Makefile"), {8, 9})) << "only touches what the first way edited";
}

TEST(Attempts, problems_have_an_order_and_a_name) {
  EXPECT_LT(Problem::of_folders(at("Makefile")), Problem::of_gain(at("a.c")));
  EXPECT_LT(Problem::of_pattern(9), Problem::of_reference(2));
  EXPECT_LT(Problem::of_reference(2), Problem::of_reference(10));
  EXPECT_EQ(Problem::of_reference(10).str(), "ref 10");
  EXPECT_EQ(Problem::of_gain(at("src/a.c")).str(), "gain src/a.c");
}

TEST(Attempts, what_costs_more_is_made_once_it_is_needed) {
  Attempts attempts;
  Problem problem = Problem::of_reference(4);
  int made = 0;
  Ways ways(std::vector<Proposal>{edit_of("Makefile", {3, 5}, "a")});
  ways.later = [&] {
    ++made;
    return std::vector<Proposal>{edit_of("Makefile", {3, 5}, "b"), edit_of("Makefile", {3, 5}, "c")};
  };
  EXPECT_TRUE(attempts.advance(problem, false, [&] { return ways; }));
  EXPECT_EQ(made, 0);
  for (const char* text : {"b", "c"}) {
    attempts.begin_round();
    EXPECT_TRUE(attempts.advance(problem));
    EXPECT_EQ(attempts.find(problem)->way().edits.front().text, text);
  }
  attempts.begin_round();
  attempts.advance(problem);
  EXPECT_FALSE(attempts.find(problem)->active);
  EXPECT_EQ(made, 1);
  // Where nothing else is ready they are the first.
  ways.ready.clear();
  attempts.add(Problem::of_reference(5), ways, false);
  EXPECT_EQ(attempts.find(Problem::of_reference(5))->way().edits.front().text, "b");
  ways.later = [] { return std::vector<Proposal>(); };
  attempts.add(Problem::of_reference(6), ways, false);
  EXPECT_FALSE(attempts.has(Problem::of_reference(6)));
}

}  // namespace
}  // namespace yc::test
