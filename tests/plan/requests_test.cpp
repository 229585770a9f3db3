// What goes along with a move and what it means for others: files that accompany, routes, other spellings.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "plan/restyle.h"
#include "plan/routes.h"
#include "plan/sidecars.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

std::vector<std::string> with(const TreeFiles& files, const TreeMoves& moves,
                              const std::vector<SidecarRule>& more = {}) {
  MemoryTree tree = tree_of(files);
  std::vector<Move> requested;
  for (const auto& [from, to] : moves) requested.push_back({at(from), at(to)});
  std::vector<SidecarRule> rules = known_sidecars();
  rules.insert(rules.end(), more.begin(), more.end());
  std::vector<std::string> out;
  for (const Move& move : with_sidecars(tree, requested, rules))
    out.push_back(move.from.str() + " -> " + move.to.str());
  return out;
}

TEST(Sidecars, go_where_their_file_goes) {
  EXPECT_THAT(with({{"a/pole.png", ""},
                    {"a/pole.png.meta", ""},
                    {"a/pole@2x.png", ""},
                    {"a/mast.png.meta", ""},
                    {"a/mast.png", ""}},
                   {{"a/pole.png", "b/pole.png"}}),
              testing::UnorderedElementsAre("a/pole.png -> b/pole.png", "a/pole.png.meta -> b/pole.png.meta",
                                            "a/pole@2x.png -> b/pole@2x.png"));
  EXPECT_THAT(
      with({{"a/pole.png", ""}, {"a/pole.png.license", ""}, {"a/pole.de.png", ""}},
           {{"a/pole.png", "a/mast.png"}}),
      testing::UnorderedElementsAre("a/pole.png -> a/mast.png", "a/pole.png.license -> a/mast.png.license",
                                    "a/pole.de.png -> a/mast.de.png"));
}

TEST(Sidecars, are_left_where_a_move_of_their_own_is_asked_for) {
  EXPECT_THAT(with({{"a/pole.png", ""}, {"a/pole.png.meta", ""}},
                   {{"a/pole.png", "b/pole.png"}, {"a/pole.png.meta", "c/other.meta"}}),
              testing::UnorderedElementsAre("a/pole.png -> b/pole.png", "a/pole.png.meta -> c/other.meta"));
  EXPECT_THAT(with({{"a/pole.png", ""}, {"a/pole.png.meta", ""}}, {{"a", "b"}}), ElementsAre("a -> b"))
      << "the folder takes them";
}

TEST(Sidecars, more_rules_can_be_given) {
  auto rule = parse_sidecar_rule("{stem}.notes", "here");
  ASSERT_TRUE(rule);
  EXPECT_THAT(with({{"a/pole.png", ""}, {"a/pole.notes", ""}}, {{"a/pole.png", "b/mast.png"}}, {*rule}),
              testing::UnorderedElementsAre("a/pole.png -> b/mast.png", "a/pole.notes -> b/mast.notes"));
  EXPECT_FALSE(parse_sidecar_rule("notes", "here")) << "it says nothing of the file";
  EXPECT_FALSE(parse_sidecar_rule("{what}.x", "here"));
}

TEST(Routes, of_files) {
  RouteFolder pages{at("src/pages"), {}, {".tsx", ".page.tsx"}, {}, false};
  EXPECT_EQ(route_of(pages, at("src/pages/tides.tsx")), "/tides");
  EXPECT_EQ(route_of(pages, at("src/pages/index.tsx")), "/");
  EXPECT_EQ(route_of(pages, at("src/pages/stations/index.tsx")), "/stations");
  EXPECT_EQ(route_of(pages, at("src/pages/stations/pole.page.tsx")), "/stations/pole");
  EXPECT_EQ(route_of(pages, at("src/pages/notes.txt")), "");
  EXPECT_EQ(route_of(pages, at("src/other/tides.tsx")), "");
  RouteFolder app{at("app"), {}, {".tsx"}, {"page"}, false};
  EXPECT_EQ(route_of(app, at("app/stations/page.tsx")), "/stations");
  EXPECT_EQ(route_of(app, at("app/stations/chart.tsx")), "");
}

TEST(Routes, that_a_move_changes) {
  MemoryTree tree = tree_of({{"pages/a.tsx", ""}, {"pages/b.tsx", ""}, {"parts/c.tsx", ""}});
  RouteFolder pages{at("pages"), {}, {".tsx"}, {}, false};
  auto changed = [&](const std::string& from, const std::string& to) {
    auto set = MoveSet::make(tree, {{at(from), at(to)}});
    EXPECT_TRUE(set);
    return changed_routes(*set, {pages}).size();
  };
  EXPECT_EQ(changed("pages/a.tsx", "parts/a.tsx"), 1U) << "one goes";
  EXPECT_EQ(changed("parts/c.tsx", "pages/c.tsx"), 1U) << "one appears";
  EXPECT_EQ(changed("pages/a.tsx", "pages/d.tsx"), 1U) << "one is renamed";
  EXPECT_EQ(changed("parts/c.tsx", "lib/c.tsx"), 0U);
}

TEST(Restyle, to_an_alias_and_back) {
  TreeFiles files = {
      {"tsconfig.json", "{ \"compilerOptions\": { \"paths\": { \"@/*\": [\"./src/*\"] } } }\n"},
      {"src/a/b.ts", "import '../tide';\nimport '@/pole';\nimport './c';\n"},
      {"src/a/c.ts", ""},
      {"src/tide.ts", ""},
      {"src/pole.ts", ""}};
  MemoryTree tree = tree_of(files);
  auto restyled = [&](Spelling to, std::size_t steps) {
    RestyleRequest request;
    request.to = to;
    request.steps = steps;
    auto plan = restyle(tree, request);
    EXPECT_TRUE(plan);
    return plan ? edits(*plan) : std::vector<std::string>();
  };
  EXPECT_THAT(restyled(Spelling::alias, 1), ElementsAre("src/a/b.ts: ../tide -> @/tide"));
  EXPECT_THAT(restyled(Spelling::alias, 2), IsEmpty());
  EXPECT_THAT(restyled(Spelling::relative, 0), ElementsAre("src/a/b.ts: @/pole -> ../pole"));
}

TEST(Restyle, adds_an_alias_first) {
  MemoryTree tree = tree_of({{"tsconfig.json", "{\n  \"compilerOptions\": {\n    \"strict\": true\n  }\n}\n"},
                             {"src/a/b/c.ts", "import '../../tide';\n"},
                             {"src/tide.ts", ""}});
  RestyleRequest request;
  request.to = Spelling::alias;
  request.new_alias = "~";
  request.alias_folder = at("src");
  auto plan = restyle(tree, request);
  ASSERT_TRUE(plan) << plan.error().message;
  EXPECT_TRUE(plan->verified);
  EXPECT_THAT(edits(*plan), testing::Contains("src/a/b/c.ts: ../../tide -> ~/tide"));
}

}  // namespace
}  // namespace yc::test
