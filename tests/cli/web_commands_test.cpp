// Forwarding modules, other spellings, aliases and routes, through the program.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const char* const kCheck = "tsc -p . --noEmit";

Files project() {
  return {{"tsconfig.json",
           "{\n  \"compilerOptions\": {\n    \"strict\": true,\n    \"module\": \"esnext\",\n    "
           "\"moduleResolution\": "
           "\"bundler\"\n  }\n}\n"},
          {"src/main.ts",
           "import { draw } from './charts/draw';\nimport tide from "
           "'./charts/tide';\nconsole.log(draw(tide));\n"},
          {"src/charts/draw.ts", "export const draw = (level: number): string => `${level}`;\n"},
          {"src/charts/tide.ts", "import { draw } from './draw';\nexport default draw.length;\n"},
          {"src/pages/a/b/c.ts",
           "import { draw } from '../../../charts/draw';\nimport { x } from './x';\nconsole.log(draw(x));\n"},
          {"src/pages/a/b/x.ts", "export const x = 1;\n"}};
}

bool holds(const Workspace& tree, const std::string& file, const std::string& text) {
  return tree.read(file).find(text) != std::string::npos;
}

TEST(WebCommands, a_promoted_module_leaves_an_index_and_importers_stay) {
  Workspace tree(project());
  Outcome moved = tree.run({"move", "src/charts/tide.ts", "src/charts/tide/tide.ts", "--forward"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_TRUE(holds(tree, "src/charts/tide/index.ts",
                    "export * from './tide';\nexport { default } from './tide';\n"));
  EXPECT_TRUE(holds(tree, "src/main.ts", "from './charts/tide';"));
  EXPECT_EQ(tree.shell(kCheck).status, 0);
  EXPECT_TRUE(tree.run({"check"}).out.find("src/charts/tide/index.ts") != std::string::npos);
  ASSERT_EQ(tree.run({"restyle", "--drop-forwarders"}).status, 0);
  EXPECT_FALSE(tree.exists("src/charts/tide/index.ts"));
  EXPECT_TRUE(holds(tree, "src/main.ts", "from './charts/tide/tide';"));
  EXPECT_EQ(tree.shell(kCheck).status, 0);
}

TEST(WebCommands, a_module_that_goes_elsewhere_leaves_one_at_its_old_place) {
  Workspace tree(project());
  ASSERT_EQ(tree.run({"move", "src/charts/draw.ts", "src/plots/", "--forward"}).status, 0);
  EXPECT_TRUE(holds(tree, "src/charts/draw.ts", "export * from '../plots/draw';"));
  EXPECT_TRUE(holds(tree, "src/main.ts", "from './plots/draw';"));
  EXPECT_EQ(tree.shell(kCheck).status, 0);
  ASSERT_EQ(tree.run({"undo"}).status, 0);
  EXPECT_FALSE(tree.exists("src/plots/draw.ts"));
}

TEST(WebCommands, an_alias_is_added_and_what_climbs_far_goes_through_it) {
  Files files = project();
  files.push_back({"vite.config.ts",
                   "import path from 'path';\nexport default {\n  resolve: {\n    alias: {\n      '~': "
                   "path.resolve(__dirname, "
                   "'other'),\n    },\n  },\n};\n"});
  files.push_back(
      {"jest.config.js", "module.exports = { moduleNameMapper: { '^~/(.*)$': '<rootDir>/other/$1' } };\n"});
  files.push_back({"other/a.js", ""});
  Workspace tree(files);
  auto before = tree.contents();
  Outcome done = tree.run({"restyle", "--add-alias", "@charts=src/charts", "--to", "alias", "--steps", "2"});
  ASSERT_EQ(done.status, 0) << done.told;
  EXPECT_TRUE(holds(tree, "tsconfig.json", "\"paths\": { \"@charts/*\": [\"./src/charts/*\"] },"));
  EXPECT_TRUE(holds(tree, "vite.config.ts", "'@charts': path.resolve(__dirname, 'src/charts'),\n      '~'"));
  EXPECT_TRUE(holds(tree, "jest.config.js", "'^@charts/(.*)$': '<rootDir>/src/charts/$1', '^~"));
  EXPECT_TRUE(holds(tree, "src/pages/a/b/c.ts", "from '@charts/draw';\nimport { x } from './x';"));
  EXPECT_TRUE(holds(tree, "src/main.ts", "from './charts/draw';"));
  EXPECT_EQ(tree.shell("rm vite.config.ts && " + std::string(kCheck)).status, 0);
  tree.write("vite.config.ts", files[6].second);
  ASSERT_EQ(tree.run({"restyle", "--to", "relative", "src/pages"}).status, 0);
  EXPECT_TRUE(holds(tree, "src/pages/a/b/c.ts", "from '../../../charts/draw';"));
}

TEST(WebCommands, a_rule_says_from_how_many_steps_an_alias_is_used) {
  Files files = project();
  files[0].second =
      "{ \"compilerOptions\": { \"strict\": true, \"module\": \"esnext\", \"moduleResolution\": \"bundler\", "
      "\"paths\": { \"@/*\": [\"./src/*\"] } } }\n";
  files.push_back({"src/pages/near.ts", "import { draw } from '@/charts/draw';\nconsole.log(draw(1));\n"});
  files.push_back({"yellow-compass.toml", "modules = { alias-from-steps = 2 }\n"});
  Workspace tree(files);
  Outcome check = tree.run({"check"});
  EXPECT_EQ(check.status, 1) << check.told;
  EXPECT_NE(check.out.find("src/pages/a/b/c.ts:1:23"), std::string::npos) << check.told;
  EXPECT_NE(check.out.find("climbs 3 folders"), std::string::npos) << check.told;
  EXPECT_NE(check.out.find("src/pages/near.ts:1:23"), std::string::npos) << check.told;
  EXPECT_NE(check.out.find("../charts/draw"), std::string::npos) << check.told;
  // What must be respelled is spelled by the rule, the far ones and the near ones; nothing else is touched.
  ASSERT_EQ(tree.run({"move", "src/charts/draw.ts", "src/plots/line/draw.ts"}).status, 0);
  EXPECT_TRUE(holds(tree, "src/pages/a/b/c.ts", "from '@/plots/line/draw';\nimport { x } from './x';"));
  EXPECT_TRUE(holds(tree, "src/pages/near.ts", "from '../plots/line/draw';"));
  EXPECT_TRUE(holds(tree, "src/charts/tide.ts", "from '../plots/line/draw';"));
  EXPECT_EQ(tree.shell(kCheck).status, 0);
  EXPECT_EQ(tree.run({"check"}).status, 0);
}

TEST(WebCommands, a_rule_must_be_a_number) {
  Files files = project();
  files.push_back({"yellow-compass.toml", "modules = { alias-from-steps = \"far\" }\n"});
  Outcome said = Workspace(files).run({"survey"});
  EXPECT_EQ(said.status, 2);
  EXPECT_NE(said.err.find("yellow-compass.toml:1:32"), std::string::npos) << said.told;
}

TEST(WebCommands, the_survey_lists_aliases) {
  Files files = project();
  files.push_back(
      {"package.json", "{ \"name\": \"d\", \"imports\": { \"#charts/*\": \"./src/charts/*.js\" } }\n"});
  Outcome said = Workspace(files).run({"survey"});
  EXPECT_NE(said.out.find("#charts/*"), std::string::npos) << said.told;
  EXPECT_NE(said.out.find("src/charts/*.js (package.json)"), std::string::npos) << said.told;
}

TEST(WebCommands, restyle_says_what_it_cannot_do) {
  Workspace tree(project());
  EXPECT_EQ(tree.run({"restyle"}).status, 2);
  EXPECT_EQ(tree.run({"restyle", "--to", "sideways"}).status, 2);
  EXPECT_EQ(tree.run({"restyle", "--add-alias", "@x"}).status, 2);
  EXPECT_EQ(tree.run({"restyle", "--add-alias", "@x=nowhere"}).status, 2);
  Outcome nothing = tree.run({"restyle", "--to", "alias"});
  EXPECT_EQ(nothing.status, 0);
  EXPECT_NE(nothing.out.find("Nothing"), std::string::npos) << nothing.told;
}

TEST(WebCommands, routes_are_told_and_only_changed_when_asked) {
  Workspace tree(
      Files{{"next.config.mjs", "export default { pageExtensions: ['page.tsx'] };\n"},
            {"src/pages/index.page.tsx", "export default 1;\n"},
            {"src/pages/reports/index.page.tsx", "import { t } from '../../table';\nexport default t;\n"},
            {"src/table.tsx", "export const t = 1;\n"}});
  EXPECT_EQ(tree.run({"move", "src/table.tsx", "src/pages/reports/", "--preview"}).status, 0)
      << "a private part beside its page is no page where pages have an ending of their own";
  expect_refusal(tree, "src/pages/reports/index.page.tsx -> src/pages/levels.page.tsx\n",
                 {"/reports", "/levels", "--routes allow"});
  expect_refusal(tree, "src/pages/reports/index.page.tsx -> src/reports.tsx\n", {"would be gone"});
  Outcome tried =
      tree.run({"rehearse", "src/pages/reports", "src/pages/tides", "--", "test", "-e", "src/table.tsx"});
  EXPECT_EQ(tried.status, 0) << tried.told;
  Outcome moved = tree.run({"move", "src/pages/reports", "src/pages/tides", "--routes", "allow"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(moved.out.find("would become /tides"), std::string::npos) << moved.told;
}

TEST(WebCommands, route_folders_of_the_configuration) {
  Workspace tree(Files{
      {"yellow-compass.toml", "[[routes]]\nfolder = \"site\"\nendings = [\".html\"]\nnames = [\"view\"]\n"},
      {"site/a/view.html", "<p>a</p>\n"},
      {"site/a/part.html", "<p>b</p>\n"}});
  EXPECT_EQ(tree.run({"move", "site/a/part.html", "site/b/", "--preview"}).status, 0);
  expect_refusal(tree, "site/a/view.html -> site/b/view.html\n", {"the route /a", "/b"});
  tree.write("yellow-compass.toml", "[[routes]]\nplace = \"site\"\n");
  EXPECT_EQ(tree.run({"survey"}).status, 2);
}

}  // namespace
}  // namespace yc::test
