// Include guards that are made of paths, and when they follow.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/c_family/include_guards.h"
#include "plan/plan.h"
#include "support/dump.h"

namespace yc::test {
namespace {

using c_family::GuardShape;
using ::testing::ElementsAre;
using ::testing::IsEmpty;

RelPath at(const std::string& path) {
  return RelPath::from_normal(path);
}

TEST(IncludeGuards, the_first_two_directives_tell) {
  EXPECT_EQ(c_family::guard_of("/* tide */\n// level\n#ifndef TIDE_H\n#define TIDE_H\n#endif\n"), "TIDE_H");
  EXPECT_EQ(c_family::guard_of("\n# ifndef TIDE_H\n#  define TIDE_H 1\n#endif\n"), "TIDE_H");
  EXPECT_EQ(c_family::guard_of("#if !defined(TIDE_H)\n#define TIDE_H\n#endif\n"), "TIDE_H");
  for (const char* other :
       {"#pragma once\n", "#ifndef A\n#define B\n#endif\n", "int x;\n#ifndef A\n#define A\n#endif\n",
        "#ifdef A\n#define A\n#endif\n", "#ifndef A\nint x;\n#endif\n", "", "/* open"})
    EXPECT_EQ(c_family::guard_of(other), std::nullopt) << other;
}

TEST(IncludeGuards, shapes_and_what_they_become) {
  struct Case {
    std::string guard, from, to, wanted;
  };
  for (const Case& one :
       {Case{"NET_TIDE_H", "net/tide.h", "core/net/tide.h", "CORE_NET_TIDE_H"},
        Case{"NET_TIDE_H", "include/net/tide.h", "include/core/net/tide.h", "CORE_NET_TIDE_H"},
        Case{"NET_TIDE_H", "include/net/tide.h", "api/sea/tide.h", "SEA_TIDE_H"},
        Case{"SALT_NET_TIDE_H_", "net/tide.h", "sea/tide.h", "SALT_SEA_TIDE_H_"},
        Case{"TIDE_H", "net/tide.h", "sea/tide.h", "TIDE_H"},
        Case{"TIDE_H", "net/tide.h", "net/level.h", "LEVEL_H"},
        Case{"__TIDE_HPP__", "tide.hpp", "sub/level.hpp", "__LEVEL_HPP__"}}) {
    auto shape = c_family::shape_of(one.guard, at(one.from));
    ASSERT_TRUE(shape) << one.guard;
    EXPECT_EQ(c_family::guard_for(*shape, at(one.from), at(one.to)), one.wanted) << one.from << " " << one.to;
  }
  EXPECT_FALSE(c_family::shape_of("UTIDE_H", at("tide.h"))) << "a name begins where it begins";
  EXPECT_FALSE(c_family::shape_of("OTHER", at("tide.h")));
}

std::string moved(const std::vector<std::pair<std::string, std::string>>& files, const std::string& from,
                  const std::string& to) {
  MemoryTree tree = tree_of(files);
  auto moves = MoveSet::make(tree, {{at(from), at(to)}});
  Plan plan = make_plan(tree, std::move(*moves), {});
  EXPECT_TRUE(plan.verified);
  std::string out = **tree.read(at(from));
  auto edits = plan.edits.find(at(from));
  return edits == plan.edits.end() ? out : edits->second.apply(out);
}

const char* const kTide = "#ifndef NET_TIDE_H\n#define NET_TIDE_H\nint x;\n#endif  // NET_TIDE_H\n";
const char* const kPole = "#ifndef NET_POLE_H\n#define NET_POLE_H\n#endif\n";

TEST(IncludeGuards, all_that_spells_the_guard_follows) {
  EXPECT_EQ(moved({{"net/tide.h", kTide}, {"net/pole.h", kPole}}, "net/tide.h", "sea/tide.h"),
            "#ifndef SEA_TIDE_H\n#define SEA_TIDE_H\nint x;\n#endif  // SEA_TIDE_H\n");
}

TEST(IncludeGuards, a_guard_that_others_name_stays) {
  EXPECT_EQ(
      moved({{"net/tide.h", kTide}, {"a.c", "#ifdef NET_TIDE_H\n#endif\n"}}, "net/tide.h", "sea/tide.h"),
      kTide);
}

TEST(IncludeGuards, a_guard_that_is_taken_is_not_taken_again) {
  EXPECT_EQ(moved({{"net/tide.h", kTide}, {"net/pole.h", kPole}, {"a.c", "#define SEA_TIDE_H 1\n"}},
                  "net/tide.h", "sea/tide.h"),
            kTide);
}

TEST(IncludeGuards, where_the_project_does_otherwise_it_stays) {
  EXPECT_EQ(moved({{"net/tide.h", kTide},
                   {"net/a.h", "#ifndef G_1\n#define G_1\n#endif\n"},
                   {"net/b.h", "#ifndef G_2\n#define G_2\n#endif\n"}},
                  "net/tide.h", "sea/tide.h"),
            kTide);
}

}  // namespace
}  // namespace yc::test
