// Values under conditions: what holds together, and in which worlds a step is taken.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/guarded_variables.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;

struct Kept {
  std::shared_ptr<const int> value;
  std::uint32_t stamp = 0;
};
using Variables = GuardedVariables<Kept>;

Kept kept(int value) {
  return {std::make_shared<const int>(value), static_cast<std::uint32_t>(value)};
}

Alternatives<Kept> only(const Kept& value) {
  return {{{}, {{{}, value}}}};
}

// What a variable has, as "guards: value of each part" of each alternative.
std::vector<std::string> shown(const Variables& variables, const std::string& name) {
  auto guard = [](const Guard& sides) {
    std::string out;
    for (const Side& side : sides) out += std::to_string(side.choice) + "=" + std::to_string(side.side) + " ";
    return out;
  };
  std::vector<std::string> out;
  for (const auto& one : *variables.find(name)) {
    std::string line = guard(one.guard) + ":";
    for (const auto& [when, part] : one.parts) line += " " + guard(when) + std::to_string(*part.value);
    out.push_back(line);
  }
  return out;
}

constexpr auto kAll = [](Alternatives<Kept>&) {};

TEST(Guards, hold_together_or_exclude_each_other) {
  EXPECT_EQ(both({{1, 0}}, {{2, 1}}), (Guard{{1, 0}, {2, 1}}));
  EXPECT_EQ(both({{1, 0}, {3, 0}}, {{1, 0}}), (Guard{{1, 0}, {3, 0}}));
  EXPECT_EQ(both({{1, 0}}, {{1, 1}}), std::nullopt);
  EXPECT_EQ(common({{1, 0}, {2, 1}}, {{1, 0}, {2, 0}}), (Guard{{1, 0}}));
}

TEST(Guards, a_conditional_in_a_loop_is_another_in_each_round) {
  Choices choices;
  Site here{1, 10}, loop{1, 2};
  EXPECT_EQ(choices.met(here, {{loop, 0}}, 2), choices.met(here, {{loop, 0}}, 2));
  EXPECT_NE(choices.met(here, {{loop, 0}}, 2), choices.met(here, {{loop, 1}}, 2));
}

// Runs a step that asks for what `ask` says, and gives what it saw in each world.
template <typename Ask>
std::vector<std::string> worlds(const Choices& choices, const Path& path, const Ask& ask) {
  Worlds all(choices, path);
  std::vector<std::string> out;
  while (all.next()) out.push_back(ask(all));
  return out;
}

std::string told(Worlds& in, std::initializer_list<Guard> guards) {
  std::string out;
  for (const Guard& guard : guards) out += in.holds(guard) ? 'y' : 'n';
  return out;
}

class SixConditionals : public ::testing::Test {
 protected:
  SixConditionals() {
    for (std::uint32_t i = 0; i < 6; ++i) choices_.met({1, i}, {}, 2);
  }
  Choices choices_;
};

using WorldsOfAStep = SixConditionals;

TEST_F(WorldsOfAStep, what_asks_for_nothing_is_taken_once) {
  EXPECT_EQ(worlds(choices_, {}, [](Worlds&) { return std::string("x"); }).size(), 1U);
}

TEST_F(WorldsOfAStep, few_conditionals_are_taken_in_all_ways_together) {
  EXPECT_THAT(worlds(choices_, {},
                     [](Worlds& in) {
                       return told(in, {{{0, 0}}, {{1, 0}}});
                     }),
              ::testing::UnorderedElementsAre("yy", "nn", "yn", "ny"));
}

TEST_F(WorldsOfAStep, of_many_each_side_is_taken) {
  auto seen = worlds(choices_, {}, [](Worlds& in) {
    return told(in, {{{0, 0}}, {{1, 0}}, {{2, 0}}, {{3, 0}}, {{4, 0}}});
  });
  EXPECT_THAT(seen, ElementsAre("yyyyy", "nnnnn"));
}

// {0=0, 1=1} and {0=1, 1=0}: no turn of all conditionals shows either.
TEST_F(WorldsOfAStep, each_guard_holds_somewhere) {
  auto seen = worlds(choices_, {}, [](Worlds& in) {
    return told(in, {{{0, 0}, {1, 1}}, {{0, 1}, {1, 0}}, {{2, 0}, {3, 1}, {4, 0}, {5, 1}}});
  });
  for (std::size_t guard = 0; guard < 3; ++guard) {
    EXPECT_TRUE(
        std::any_of(seen.begin(), seen.end(), [&](const auto& world) { return world[guard] == 'y'; }));
  }
}

TEST_F(WorldsOfAStep, the_path_says_what_can_hold) {
  Path path;
  path.taken = {{0, 1}};
  path.closed = {{1, 0}};
  EXPECT_THAT(worlds(choices_, path,
                     [](Worlds& in) {
                       return told(in, {{{0, 0}}, {{0, 1}}, {{1, 0}}});
                     }),
              ElementsAre("nyn"));
}

TEST_F(WorldsOfAStep, too_many_are_told) {
  Choices choices;
  std::uint32_t wide = choices.met({1, 1}, {}, 50);
  Path path;
  Worlds all(choices, path);
  while (all.next()) all.pick(wide);
  EXPECT_TRUE(all.is_cut_short());
}

TEST(GuardedVariables, keep_what_each_side_set) {
  Variables variables;
  variables.set("a", only(kept(1)));
  variables.open();
  variables.set("a", only(kept(2)));
  Variables::Map changes = variables.close();
  EXPECT_THAT(shown(variables, "a"), ElementsAre(": 1"));
  variables.join({{{{7, 0}}, changes}, {{{7, 1}}, {}}}, kAll);
  EXPECT_THAT(shown(variables, "a"), ElementsAre("7=0 : 2", "7=1 : 1"));
}

TEST(GuardedVariables, equal_values_need_no_guard) {
  Variables variables;
  variables.open();
  variables.set("a", only(kept(2)));
  Variables::Map one = variables.close();
  variables.open();
  variables.set("a", only(kept(2)));
  Variables::Map other = variables.close();
  variables.join({{{{7, 0}}, one}, {{{7, 1}}, other}}, kAll);
  EXPECT_THAT(shown(variables, "a"), ElementsAre(": 2"));
}

TEST(GuardedVariables, what_grows_on_a_side_stays_one_value) {
  Variables variables;
  variables.set("a", only(kept(1)));
  for (std::uint32_t choice : {7U, 8U}) {
    variables.open();
    variables.grow("a", {}, kept(static_cast<int>(choice)));
    Variables::Map changes = variables.close();
    variables.join({{{{choice, 0}}, changes}, {{{choice, 1}}, {}}}, kAll);
  }
  EXPECT_THAT(shown(variables, "a"), ElementsAre(": 1 7=0 7 8=0 8"));
}

// A list of many members costs what is added; what a side begins with stays as it was.
TEST(GuardedVariables, what_grows_is_copied_once_for_a_side) {
  Variables variables;
  variables.set("a", only(kept(1)));
  const auto* outside = variables.find("a");
  variables.grow("a", {}, kept(2));
  EXPECT_EQ(variables.find("a"), outside);
  variables.open();
  variables.grow("a", {}, kept(3));
  const auto* inside = variables.find("a");
  variables.grow("a", {}, kept(4));
  EXPECT_NE(inside, outside);
  EXPECT_EQ(variables.find("a"), inside);
  variables.close();
  EXPECT_THAT(shown(variables, "a"), ElementsAre(": 1 2"));
}

TEST(GuardedVariables, what_only_one_side_sets_is_not_there_on_the_other) {
  Variables variables;
  variables.open();
  variables.set("a", only(kept(1)));
  Variables::Map changes = variables.close();
  variables.join({{{{7, 0}}, changes}, {{{7, 1}}, {}}}, kAll);
  EXPECT_THAT(shown(variables, "a"), ElementsAre("7=0 : 1", "7=1 :"));
}

}  // namespace
}  // namespace yc::test
