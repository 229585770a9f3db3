#include "formats/branch_explorer.h"

#include <gtest/gtest.h>

#include <set>
#include <string>

namespace yc {
namespace {

// A tree of conditionals: each side holds further ones.
struct Choice {
  std::uint32_t offset = 0;
  std::vector<std::vector<Choice>> sides;
};

void walk(BranchExplorer& branches, const std::vector<Choice>& choices, std::set<std::string>& seen) {
  for (const Choice& choice : choices) {
    unsigned side = branches.enter({0, choice.offset}, static_cast<unsigned>(choice.sides.size()));
    seen.insert(std::to_string(choice.offset) + "/" + std::to_string(side));
    walk(branches, choice.sides[side], seen);
    branches.leave();
  }
}

std::size_t count_sides(const std::vector<Choice>& choices) {
  std::size_t sum = 0;
  for (const Choice& choice : choices) {
    for (const auto& side : choice.sides) sum += 1 + count_sides(side);
  }
  return sum;
}

Choice nested(unsigned depth) {
  if (depth == 0) return {1000, {{}, {}}};
  return {depth, {{}, {nested(depth - 1)}}};
}

TEST(BranchExplorer, every_side_of_a_deep_nest_is_taken_in_few_runs) {
  std::vector<Choice> choices = {nested(12), {500, {{}, {}, {}}}};
  BranchExplorer branches(64);
  std::set<std::string> seen;
  std::size_t runs = 0;
  for (; branches.next(); ++runs) walk(branches, choices, seen);
  EXPECT_EQ(seen.size(), count_sides(choices));
  EXPECT_LE(runs, 16u);
  EXPECT_TRUE(branches.left_out().empty());
}

// "if(DOCS) if(NOT TOOL) return() endif() if(OLD) … endif() endif()"
TEST(BranchExplorer, what_stands_behind_a_side_that_returns_is_seen_from_all_sides) {
  BranchExplorer branches(64);
  std::size_t runs = 0;
  while (branches.next()) {
    ++runs;
    branches.enter({0, 1}, 2);
    branches.leave();
    if (branches.enter({0, 2}, 2) == 0) {
      bool returns = branches.enter({1, 3}, 2) == 0;
      branches.leave();
      if (!returns) {
        branches.enter({1, 4}, 2);
        branches.leave();
      }
    }
    branches.leave();
  }
  EXPECT_TRUE(branches.left_out().empty());
  EXPECT_LE(runs, 5u);
}

// "if(UNIX) list(APPEND names more) endif() foreach(name ${names}) if(UNIX) … endif() endforeach()"
TEST(BranchExplorer, rounds_of_a_loop_that_only_one_side_brings_are_seen_from_all_sides) {
  BranchExplorer branches(64);
  std::size_t runs = 0;
  while (branches.next()) {
    ++runs;
    unsigned rounds = branches.enter({1, 1}, 2) == 0 ? 4 : 2;
    branches.leave();
    for (unsigned round = 0; round < rounds; ++round) {
      branches.enter({1, 2}, 2);
      branches.leave();
    }
  }
  EXPECT_TRUE(branches.left_out().empty());
  EXPECT_LE(runs, 4U);
}

// One side of the second conditional is met only together with a side of the first that rules it out.
TEST(BranchExplorer, sides_that_no_run_gets_to_are_not_waited_for) {
  BranchExplorer branches(64);
  std::size_t runs = 0;
  while (branches.next()) {
    ++runs;
    unsigned first = branches.enter({0, 1}, 2);
    branches.leave();
    for (unsigned i = 0; i < 2; ++i) {
      if (first != i) continue;
      branches.enter({0, 2 + i}, 2 + i);
      if (branches.enter({0, 10}, 2) == first) branches.enter({0, 20 + i}, 2), branches.leave();
      branches.leave();
      branches.leave();
    }
  }
  EXPECT_LE(runs, 24U);
}

// A value of one round is replaced by the next, which has most likely had its use of it: such values are held
// last, and none is forgotten.
TEST(BranchExplorer, values_that_rounds_of_a_loop_replace_are_held_last) {
  BranchExplorer branches(64);
  std::set<std::string> seen_x, seen_y;
  std::size_t runs = 0, all_of_y = 0;
  for (; branches.next(); ++runs) {
    std::string x, y;
    for (std::uint32_t round = 0; round < 6; ++round) {
      if (branches.enter({0, 100 + round}, 2) == 0) {
        branches.set(
            "x", [] { return true; }, BranchExplorer::Rounds{{{0, 5}, round}});
        x = std::to_string(round);
      }
      branches.leave();
      if (branches.enter({0, 200 + round}, 2) == 0) {
        branches.set("y", [] { return true; });
        y = std::to_string(round);
      }
      branches.leave();
    }
    seen_x.insert(x);
    seen_y.insert(y);
    if (all_of_y == 0 && seen_y.size() == 7) all_of_y = seen_x.size();
  }
  EXPECT_EQ(seen_x.size(), 7U);
  EXPECT_EQ(seen_y.size(), 7U);
  EXPECT_LT(all_of_y, 7U);
  EXPECT_TRUE(branches.left_out().empty());
}

TEST(BranchExplorer, straight_script_runs_once) {
  BranchExplorer branches(64);
  EXPECT_TRUE(branches.next());
  EXPECT_FALSE(branches.next());
}

TEST(BranchExplorer, repeated_meetings_in_one_run_are_told_apart) {
  BranchExplorer branches(64);
  std::set<std::pair<int, unsigned>> seen;
  while (branches.next()) {
    for (int i = 0; i < 3; ++i) {
      seen.emplace(i, branches.enter({0, 7}, 2));
      branches.leave();
    }
  }
  EXPECT_EQ(seen.size(), 6u);
}

TEST(BranchExplorer, limit_is_kept_and_told) {
  BranchExplorer branches(3);
  std::size_t runs = 0;
  for (; branches.next(); ++runs) {
    branches.enter({0, 1}, 10);
    branches.leave();
  }
  EXPECT_EQ(runs, 3u);
  EXPECT_EQ(branches.left_out(), std::set<FileIndex>{0});
}

// A script of conditionals that each set the variable, and what it holds in the end.
std::string last_value(BranchExplorer& branches, unsigned conditionals) {
  std::string value;
  for (unsigned i = 0; i < conditionals; ++i) {
    if (branches.enter({0, i}, 2) == 0) {
      branches.set("x", [] { return true; });
      value = std::to_string(i);
    }
    branches.leave();
  }
  return value;
}

TEST(BranchExplorer, what_a_later_conditional_replaces_is_kept_in_a_run) {
  BranchExplorer branches(64);
  std::set<std::string> seen;
  std::size_t runs = 0;
  for (; branches.next(); ++runs) seen.insert(last_value(branches, 8));
  EXPECT_EQ(seen, (std::set<std::string>{"", "0", "1", "2", "3", "4", "5", "6", "7"}));
  EXPECT_LE(runs, 10u);
  EXPECT_TRUE(branches.left_out().empty());
}

// "if(A) set(x …) else() set(x …) endif()", time after time: nothing behind the next one sees the last value.
TEST(BranchExplorer, what_is_replaced_on_all_sides_takes_no_run) {
  BranchExplorer branches(64);
  std::size_t runs = 0;
  for (; branches.next(); ++runs) {
    for (unsigned i = 0; i < 40; ++i) {
      bool is_first = branches.enter({0, i}, 2) == 0;
      if (is_first) branches.set("x", [] { return true; });
      if (!is_first) {
        branches.enter({0, 100 + i}, 2);  // as well on both sides of what stands in there
        branches.set("x", [] { return true; });
        branches.leave();
      }
      branches.leave();
    }
  }
  EXPECT_LE(runs, 8u);
  EXPECT_TRUE(branches.left_out().empty());
}

TEST(BranchExplorer, sides_alone_take_no_runs_for_values) {
  BranchExplorer branches(64, BranchExplorer::Wanted::sides);
  std::size_t runs = 0;
  for (; branches.next(); ++runs) (void)last_value(branches, 8);
  EXPECT_EQ(runs, 2u);
}

TEST(BranchExplorer, what_is_made_of_a_value_in_any_case_takes_its_place) {
  BranchExplorer branches(64);
  std::size_t runs = 0;
  for (; branches.next(); ++runs) {
    for (unsigned i = 0; i < 40; ++i) {
      if (branches.enter({0, i}, 2) == 0) branches.set("x", [] { return true; });
      branches.leave();
      branches.change("x");
    }
  }
  EXPECT_LE(runs, 4u);
  EXPECT_TRUE(branches.left_out().empty());
}

TEST(BranchExplorer, a_variable_of_a_scope_begins_with_the_value_from_outside) {
  BranchExplorer branches(64);
  std::set<std::string> seen;
  while (branches.next()) {
    std::string outside, inside;
    if (branches.enter({0, 1}, 2) == 0) {
      branches.set("x", [] { return true; });
      outside = "a";
    }
    branches.leave();
    inside = outside;
    if (branches.enter({0, 2}, 2) == 0) {
      branches.set("f x", [] { return true; }, {}, {"x"});
      inside = "b";
    }
    branches.leave();
    seen.insert(inside);
  }
  EXPECT_EQ(seen, (std::set<std::string>{"", "a", "b"}));
}

TEST(BranchExplorer, what_is_replaced_without_a_condition_or_does_not_matter_takes_no_run) {
  for (bool matters : {false, true}) {
    BranchExplorer branches(64);
    std::size_t runs = 0;
    for (; branches.next(); ++runs) {
      for (unsigned i = 0; i < 3; ++i) {
        if (branches.enter({0, i}, 2) == 0) branches.set("x", [] { return false; });
        branches.leave();
      }
      branches.set("y", [&] { return matters; });
      if (branches.enter({0, 9}, 2) == 0) branches.set("y", [&] { return matters; });
      branches.leave();
      // Rounds of a loop.
      for (unsigned i = 0; i < 3; ++i) {
        if (branches.enter({0, 20}, 2) == 0) branches.set("z", [&] { return matters; });
        branches.leave();
      }
    }
    EXPECT_EQ(runs, 2u);
  }
}

}  // namespace
}  // namespace yc
