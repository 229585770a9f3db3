// What a plan's readings of sources are confined to.
#include "plan/focus.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::Not;

Focus focus_for(const TreeFiles& files, const std::vector<Move>& moves) {
  MemoryTree tree = tree_of(files);
  auto set = MoveSet::make(tree, moves);
  EXPECT_TRUE(set);
  return focus_of(tree, *set);
}

TEST(Focus, files_are_asked_for_by_their_old_and_new_names) {
  Focus focus =
      focus_for({{"src/level.c", ""}, {"src/tide.c", ""}}, {{at("src/level.c"), at("water/gauge.c")}});
  EXPECT_TRUE(focus.files.contains(at("src/level.c")));
  EXPECT_TRUE(focus.files.contains(at("water/gauge.c")));
  EXPECT_THAT(focus.names, Contains("level.c"));
  EXPECT_THAT(focus.names, Contains("gauge.c"));
  EXPECT_THAT(focus.names, Contains("water")) << "a folder that is made may hide what bears its name";
  EXPECT_THAT(focus.names, Not(Contains("tide.c")));
  EXPECT_THAT(focus.left, Contains("src"));
}

TEST(Focus, modules_are_asked_for_by_what_may_name_them) {
  Focus focus = focus_for({{"charts/index.ts", ""},
                           {"pole/__init__.py", ""},
                           {"css/_index.scss", ""},
                           {"css/_base.scss", ""},
                           {"web/tide.test.ts", ""}},
                          {{at("charts/index.ts"), at("web/plots/index.ts")},
                           {at("pole/__init__.py"), at("gauge/__init__.py")},
                           {at("css/_index.scss"), at("web/css/_index.scss")},
                           {at("css/_base.scss"), at("web/css/_base.scss")},
                           {at("web/tide.test.ts"), at("web/level.test.ts")}});
  for (const char* stem : {"charts", "plots", "pole", "gauge", "css", "base", "tide", "tide.test", "level"})
    EXPECT_THAT(focus.stems, Contains(stem));
}

TEST(Focus, settings_that_tell_where_to_look_widen_it) {
  auto widens = [](const char* path) {
    MemoryTree tree = tree_of({{path, "{}"}});
    return moves_a_governor(*MoveSet::make(tree, {{at(path), at(std::string("moved/") + path)}}));
  };
  EXPECT_TRUE(widens("web/tsconfig.json"));
  EXPECT_TRUE(widens("web/package.json"));
  EXPECT_FALSE(widens("web/tide.ts"));
  EXPECT_FALSE(widens("src/a.c"));
}

}  // namespace
}  // namespace yc::test
