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

// One line of a table: a program, and what becomes of it when "assets" gets the name ASSETS.
struct ConstantCase {
  std::string what, path, before, after;
};

void expect_constants(const std::vector<ConstantCase>& cases) {
  for (const ConstantCase& one : cases) {
    SCOPED_TRACE(one.what);
    MemoryTree tree = tree_of({{one.path, one.before},
                               {"assets/tides.csv", ""},
                               {"assets/icons/pole.png", ""},
                               {"Office.csproj", ""}});
    auto plan = name_asset_root(tree, {}, "ASSETS", at("assets"));
    ASSERT_TRUE(plan) << plan.error().message;
    auto edits = plan->edits.find(at(one.path));
    EXPECT_EQ(edits == plan->edits.end() ? one.before : edits->second.apply(one.before), one.after);
  }
}

TEST(Restyle, names_a_folder_of_assets_in_c) {
  expect_constants({
      {"behind the includes", "src/load.c",
       "#include <stdio.h>\n#include \"x.h\"\n\nint f(void) { return load(\"assets/tides.csv\"); }\n",
       "#include <stdio.h>\n#include \"x.h\"\n\n#define ASSETS \"assets/\"\n\nint f(void) { return "
       "load(ASSETS "
       "\"tides.csv\"); }\n"},
      {"not behind one that a condition holds", "src/load.cpp",
       "#include <string>\n#ifdef X\n#include <x>\n#endif\nstd::string a = \"assets/icons/pole.png\";\n",
       "#include <string>\n\n#define ASSETS \"assets/\"\n#ifdef X\n#include <x>\n#endif\nstd::string a = "
       "ASSETS "
       "\"icons/pole.png\";\n"},
      {"not what a directive names, nor a text of wide letters", "src/load.c",
       "#include <a>\n#warning \"assets/tides.csv\"\nauto a = L\"assets/tides.csv\";\n",
       "#include <a>\n#warning \"assets/tides.csv\"\nauto a = L\"assets/tides.csv\";\n"},
      {"the name is taken", "src/load.c", "int ASSETS;\nchar* a = \"assets/tides.csv\";\n",
       "int ASSETS;\nchar* a = \"assets/tides.csv\";\n"},
  });
}

TEST(Restyle, names_a_folder_of_assets_in_modules) {
  expect_constants({
      {"behind the imports, with semicolons", "src/load.js",
       "import a from 'a';\nimport {\n  b,\n} from 'b';\n\nload('assets/tides.csv');\nload('assets/icons/' + "
       "a);\n",
       "import a from 'a';\nimport {\n  b,\n} from 'b';\n\nconst ASSETS = 'assets/';\n\nload(ASSETS + "
       "'tides.csv');\nload(ASSETS + 'icons/' + a);\n"},
      {"without", "src/load.ts", "const a = require(\"a\")\nload(\"assets/tides.csv\")\n",
       "const a = require(\"a\")\n\nconst ASSETS = \"assets/\"\nload(ASSETS + \"tides.csv\")\n"},
      {"no import", "load.mjs", "// Loads.\nload('assets/tides.csv');\n",
       "// Loads.\nconst ASSETS = 'assets/';\n\nload(ASSETS + 'tides.csv');\n"},
      {"not a key, an attribute, or what a method is asked of", "src/load.jsx",
       "import a from 'a';\nconst b = { 'assets/tides.csv': 1 };\nconst c = <img "
       "src=\"assets/icons/pole.png\" "
       "/>;\nconst d = 'assets/tides.csv'.length;\n",
       "import a from 'a';\nconst b = { 'assets/tides.csv': 1 };\nconst c = <img "
       "src=\"assets/icons/pole.png\" "
       "/>;\nconst d = 'assets/tides.csv'.length;\n"},
  });
}

TEST(Restyle, names_a_folder_of_assets_in_other_languages) {
  expect_constants({
      {"C#, in the type", "Load.cs",
       "namespace Office {\n  class Load {\n    string a = \"assets/tides.csv\";\n    string b = "
       "@\"assets/icons/pole.png\";\n  }\n}\n",
       "namespace Office {\n  class Load {\n    private const string ASSETS = \"assets/\";\n    string a = "
       "ASSETS "
       "+ \"tides.csv\";\n    string b = ASSETS + @\"icons/pole.png\";\n  }\n}\n"},
      {"C#, in two types", "Load.cs",
       "class A {\n  string a = \"assets/tides.csv\";\n}\nclass B {\n  string a = \"assets/tides.csv\";\n}\n",
       "class A {\n  string a = \"assets/tides.csv\";\n}\nclass B {\n  string a = "
       "\"assets/tides.csv\";\n}\n"},
      {"Rust, as a macro, so that it stays a literal", "src/main.rs",
       "use std::fs;\n\nfn main() {\n    fs::read(\"assets/tides.csv\");\n}\n",
       "use std::fs;\n\nmacro_rules! ASSETS {\n    ($path:literal) => {\n        concat!(\"assets/\", "
       "$path)\n    "
       "};\n}\n\nfn main() {\n    fs::read(ASSETS!(\"tides.csv\"));\n}\n"},
      {"Go", "main.go",
       "package main\n\nimport (\n\t\"os\"\n)\n\nfunc f() {\n\tos.Open(\"assets/tides.csv\")\n}\n",
       "package main\n\nimport (\n\t\"os\"\n)\n\nconst ASSETS = \"assets/\"\n\nfunc f() {\n\tos.Open(ASSETS "
       "+ "
       "\"tides.csv\")\n}\n"},
      {"Java", "Load.java", "class Load {\n    String a = \"assets/tides.csv\";\n}\n",
       "class Load {\n    private static final String ASSETS = \"assets/\";\n    String a = ASSETS + "
       "\"tides.csv\";\n}\n"},
      {"Kotlin", "Load.kt", "package tide\n\nimport a.b\n\nval a = load(\"assets/tides.csv\")\n",
       "package tide\n\nimport a.b\n\nprivate const val ASSETS = \"assets/\"\n\nval a = load(ASSETS + "
       "\"tides.csv\")\n"},
      {"Swift", "Load.swift", "import UIKit\n\nlet a = load(\"assets/tides.csv\")\n",
       "import UIKit\n\nprivate let ASSETS = \"assets/\"\n\nlet a = load(ASSETS + \"tides.csv\")\n"},
  });
}

}  // namespace
}  // namespace yc::test
