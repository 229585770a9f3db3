// Shapes of TypeScript and JavaScript projects as they are met in the wild: each is moved, checked and
// compiled by the TypeScript compiler, run, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const std::string kBuild = "tsc -p . && node dist/main.js";

// A dashboard that prints a level; its settings are `options` more than the plain ones.
Files dashboard(const std::string& options = "", const std::string& manifest = "") {
  return {
      {"package.json", "{\n  \"name\": \"dashboard\",\n  \"type\": \"commonjs\"" + manifest + "\n}\n"},
      {"tsconfig.json",
       "{\n  // how it is compiled\n  \"compilerOptions\": {\n    \"strict\": true, \"target\": \"ES2022\", "
       "\"module\": "
       "\"commonjs\",\n    \"outDir\": \"dist\"" +
           options + ",\n  },\n  \"include\": [\"src\"],\n}\n"},
      {"src/main.ts",
       "import { draw } from './charts/draw';\nimport { gauge } from \"./gauge\";\n"
       "console.log(draw(gauge.levels)); // see ./charts/draw\n"},
      {"src/charts/draw.ts",
       "import type { Level } from '../gauge/level';\n"
       "export const draw = (all: Level[]): string => all.map((l) => `${l.mm / 10} cm`).join('/');\n"},
      {"src/gauge/index.ts",
       "export * from './level';\nimport { Level } from './level';\n"
       "export const gauge: { levels: Level[] } = { levels: [{ mm: 50 }] };\n"},
      {"src/gauge/level.ts", "export interface Level { mm: number }\n"},
  };
}

void expect_lines(const Workspace& tree, const std::string& sheet, const std::vector<std::string>& lines,
                  const std::string& build = kBuild) {
  expect_move_says(tree, sheet, lines, build);
}

TEST(WebShapes, a_module_goes_to_another_folder_and_comments_stay) {
  expect_lines(
      Workspace(dashboard()), "src/gauge/level.ts -> src/model/water/level.ts\n",
      {"import type { Level } from '../model/water/level';", "export * from '../model/water/level';"});
}

TEST(WebShapes, a_folder_is_still_named_for_its_index) {
  expect_lines(Workspace(dashboard()), "src/gauge -> src/sensors/tide-gauge\n",
               {"from \"./sensors/tide-gauge\";", "from '../sensors/tide-gauge/level';"});
}

TEST(WebShapes, an_index_that_becomes_a_module_is_named) {
  expect_lines(Workspace(dashboard()), "src/gauge/index.ts -> src/gauge/tide.ts\n",
               {"from \"./gauge/tide\";"});
}

TEST(WebShapes, a_module_that_becomes_the_index_of_a_folder) {
  expect_lines(Workspace(dashboard()), "src/charts/draw.ts -> src/draw/index.ts\n", {"from './draw';"});
}

TEST(WebShapes, all_sources_move_and_the_output_stays) {
  expect_lines(Workspace(dashboard()), "src -> app/source\n", {"\"include\": [\"app/source\"]"});
}

TEST(WebShapes, the_package_moves_whole_without_an_edit) {
  Files files = dashboard();
  for (auto& [path, bytes] : files) path = "web/" + path;
  Workspace tree(files);
  Outcome moved = expect_move_keeps_build(tree, "web -> apps/dashboard\n",
                                          "cd */ && [ -f tsconfig.json ] || cd */; " + kBuild);
  EXPECT_NE(moved.out.find("none are needed"), std::string::npos) << moved.told;
}

TEST(WebShapes, endings_that_are_written_stay_written) {
  Workspace tree(Files{
      {"tsconfig.json", R"({"compilerOptions": {"module": "nodenext", "outDir": "dist", "strict": true}})"},
      {"package.json", R"({"type": "module"})"},
      {"src/main.ts",
       "import { tide } from './tide.js';\nimport('./later.js').then((m) => console.log(tide, m.later));\n"},
      {"src/tide.ts", "export const tide: number = 4;\n"},
      {"src/later.ts", "export const later = 'later';\n"}});
  expect_lines(tree, "src/tide.ts -> src/water/tide.ts\nsrc/later.ts -> src/then/soon.ts\n",
               {"'./water/tide.js'", "import('./then/soon.js')"});
}

TEST(WebShapes, an_alias_follows_its_folder_or_is_kept_for_what_is_still_below) {
  Files files = dashboard(
      ",\n    \"baseUrl\": \".\", \"paths\": { \"@/*\": [\"src/*\"], \"@gauge\": [\"src/gauge/index\"] }");
  files[2].second =
      "import { draw } from '@/charts/draw';\nimport type { gauge } from '@gauge';\nimport { gauge as g } "
      "from './gauge';\n"
      "let all: typeof gauge = g; console.log(draw(all.levels));\n";
  files[3].second =
      "import type { Level } from '@/gauge/level';\nexport const draw = (all: Level[]) => "
      "String(all.length);\n";
  const std::string check = "tsc -p . --noEmit";
  expect_lines(Workspace(files), "src -> lib\n",
               {"\"@/*\": [\"lib/*\"]", "\"@gauge\": [\"lib/gauge/index\"]"}, check);
  expect_lines(Workspace(files), "src/charts/draw.ts -> src/plots/draw.ts\n", {"from '@/plots/draw'"}, check);
  expect_lines(Workspace(files), "src/gauge/level.ts -> src/level.ts\n",
               {"from '@/level'", "from '../level'"}, check);
  expect_lines(Workspace(files), "src/gauge/index.ts -> src/tide.ts\n", {"\"@gauge\": [\"src/tide\"]"},
               check);
}

TEST(WebShapes, one_alias_in_two_places_is_kept_in_step) {
  Files files = dashboard(",\n    \"paths\": { \"#charts/*\": [\"./src/charts/*\"] }",
                          ",\n  \"imports\": { \"#charts/*\": \"./src/charts/*.ts\" }");
  files[2].second = "import { draw } from '#charts/draw';\nconsole.log(draw([]));\n";
  expect_lines(Workspace(files), "src/charts -> src/plots\n",
               {"\"#charts/*\": [\"./src/plots/*\"]", "\"#charts/*\": \"./src/plots/*.ts\""},
               "tsc -p . --noEmit");
}

TEST(WebShapes, a_package_imports_itself_by_its_exports) {
  Workspace tree(Files{
      {"package.json",
       R"({"name": "level", "type": "module", "exports": {"./*": {"saltmarsh": "./src/*.ts", "default": "./dist/*.js"}}})"},
      {"tsconfig.json",
       R"({"compilerOptions": {"module": "nodenext", "rootDir": "src", "outDir": "dist", "customConditions": ["saltmarsh"]}})"},
      {"src/a.ts", "import { b } from 'level/parts/b';\nconsole.log(b);\n"},
      {"src/parts/b.ts", "export const b = 1;\n"}});
  expect_lines(tree, "src/parts/b.ts -> src/pieces/b.ts\n", {"'level/pieces/b'"}, "tsc -p . --noEmit");
}

TEST(WebShapes, manifests_name_outputs_and_follow_their_sources) {
  Files files = dashboard(
      ", \"declaration\": true",
      ",\n  \"main\": \"./dist/main.js\",\n  \"types\": \"./dist/main.d.ts\",\n  \"bin\": \"dist/main.js\",\n"
      "  \"browser\": \"./dist/other.js\",\n  \"scripts\": { \"start\": \"node dist/main.js\" }");
  expect_lines(Workspace(files), "src/main.ts -> src/app/start.ts\n",
               {"\"main\": \"./dist/app/start.js\"", "\"types\": \"./dist/app/start.d.ts\"",
                "\"bin\": \"dist/app/start.js\"", "\"start\": \"node dist/app/start.js\""},
               "tsc -p . && npm start --silent");
}

TEST(WebShapes, an_entry_goes_under_src_and_the_output_stays_where_it_was) {
  Workspace tree(
      Files{{"package.json",
             R"({"name": "tide", "main": "dist/index.js", "scripts": {"start": "node dist/index.js"}})"},
            {"tsconfig.json",
             R"({"compilerOptions": {"outDir": "dist", "module": "commonjs"}, "exclude": ["dist"]})"},
            {"index.ts", "import { b } from './b';\nconsole.log(b);\n"},
            {"b.ts", "export const b = 1;\n"}});
  Outcome moved = expect_move_keeps_build(tree, "index.ts -> src/index.ts\nb.ts -> src/b.ts\n",
                                          "tsc -p . && npm start --silent");
  EXPECT_NE(moved.out.find("none are needed"), std::string::npos) << moved.told;
}

TEST(WebShapes, a_move_that_would_shift_the_whole_output_is_refused) {
  Files files = dashboard("", ",\n  \"main\": \"dist/main.js\"");
  expect_refusal(Workspace(files), "src/charts/draw.ts -> tools/draw.ts\n",
                 {"tsconfig.json", "\"dist\"", "rootDir"});
}

// What is imported is compiled along, wherever it lies, and counts for the layout.
TEST(WebShapes, an_import_that_would_shift_the_whole_output_is_refused) {
  auto tide = [](const std::string& option) {
    return Files{{"src/tsconfig.json", "{ \"compilerOptions\": { \"module\": \"commonjs\", " + option +
                                           "\"outDir\": \"../out\" }, \"include\": [\"./**/*.ts\"] }\n"},
                 {"src/index.ts", "import { level } from './sea/level';\nconsole.log(level);\n"},
                 {"src/sea/level.ts", "export const level = 4;\n"}};
  };
  const char* const run = "tsc -p src && node out/index.js";
  Workspace inferred(tide(""));
  expect_refusal(inferred, "src/sea/level.ts -> lib/level.ts\n",
                 {"src/tsconfig.json", "would become the root"});
  expect_move_keeps_build(inferred, "src/sea/level.ts -> src/lib/level.ts\n", run);
  Workspace told(tide("\"rootDir\": \".\", "));
  expect_refusal(told, "src/sea/level.ts -> lib/level.ts\n", {"lib/level.ts", "would lie outside of it"});
  // Nothing imports it, but it would be listed.
  Workspace listed({{"tsconfig.json",
                     R"({ "compilerOptions": { "rootDir": "src", "outDir": "dist" }, "include": ["src"] })"},
                    {"src/index.ts", "export {};\n"},
                    {"src/alone.ts", "export {};\n"}});
  expect_refusal(listed, "src/alone.ts -> lib/alone.ts\n", {"lib/alone.ts", "would lie outside of it"});
  expect_move_keeps_build(told, "src/sea/level.ts -> src/lib/level.ts\n", run);
}

TEST(WebShapes, a_declaration_that_leaves_the_included_folder_is_added) {
  Files files = dashboard();
  files.push_back({"src/globals.d.ts", "declare const STATION: string;\n"});
  files[2].second += "if (typeof STATION === 'string') console.log(STATION);\n";
  expect_lines(Workspace(files), "src/globals.d.ts -> types/globals.d.ts\n",
               {"\"include\": [\"src\", \"types\"]"});
}

TEST(WebShapes, project_references_and_bases_follow) {
  Workspace tree(Files{
      {"tsconfig.json",
       R"({"files": [], "references": [{"path": "level"}, {"path": "./viewer/tsconfig.build.json"}]})"},
      {"base.json", R"({"compilerOptions": {"composite": true, "strict": true, "module": "commonjs"}})"},
      {"level/tsconfig.json", R"({"extends": "../base", "compilerOptions": {"outDir": "out"}})"},
      {"level/index.ts", "export const level = 3;\n"},
      {"viewer/tsconfig.build.json",
       R"({"extends": "../base.json", "references": [{"path": "../level"}], "compilerOptions": {"outDir": "out"}})"},
      {"viewer/view.ts", "import { level } from '../level';\nconsole.log(level);\n"}});
  expect_lines(tree, "level -> packages/level\nviewer -> packages/viewer\nbase.json -> settings/base.json\n",
               {"\"path\": \"packages/level\"", "./packages/viewer/tsconfig.build.json",
                "\"extends\": \"../../settings/base\"", "../../settings/base.json"},
               "tsc -b && find . -name view.js -exec node {} \\;");
}

TEST(WebShapes, common_modules_and_dynamic_ones_with_a_known_folder) {
  Workspace tree(Files{{"package.json", R"({"scripts": {"test": "node tests/run.js"}})"},
                       {"lib/plug.js", "module.exports = (name) => require('./plugs/' + name + '.js');\n"},
                       {"lib/plugs/tide.js", "module.exports = 'tide';\n"},
                       {"lib/plugs/wind.js", "module.exports = 'wind';\n"},
                       {"lib/data.json", "{\"mm\": 5}\n"},
                       {"tests/run.js",
                        "const plug = require('../lib/plug');\nconst { mm } = require('../lib/data');\n"
                        "console.log(plug('tide'), mm, require.resolve('../lib/data.json').length > 0);\n"}});
  expect_lines(tree, "lib/plugs -> lib/parts\nlib/data.json -> data/levels.json\n",
               {"require('./parts/' + name + '.js')", "require('../data/levels');",
                "require.resolve('../data/levels.json')"},
               "npm test --silent");
  expect_refusal(tree, "lib/plugs/tide.js -> lib/tide.js\n", {"lib/plug.js:1", "only known when it runs"});
}

TEST(WebShapes, a_worker_an_asset_and_a_test_double) {
  Workspace tree(
      Files{{"package.json", R"({"type": "module"})"},
            {"main.mjs",
             "import { readFileSync } from 'node:fs';\n"
             "console.log(readFileSync(new URL('./assets/tide.txt', import.meta.url), 'utf8'));\n"},
            {"assets/tide.txt", "high\n"},
            {"tests/a.test.js", "jest.mock('../lib/tide');\njest.requireActual('../lib/tide.js');\n"},
            {"lib/tide.js", "export default 1;\n"}});
  expect_lines(tree, "assets -> static/media\nlib/tide.js -> lib/water/tide.js\n",
               {"new URL('./static/media/tide.txt', import.meta.url)", "jest.mock('../lib/water/tide')",
                "jest.requireActual('../lib/water/tide.js')"},
               "node main.mjs");
}

TEST(WebShapes, a_bundler_takes_aliases_from_a_program) {
  Workspace tree(Files{{"build.config.mjs",
                        "import path from 'node:path';\nimport { fileURLToPath } from 'node:url';\nimport * "
                        "as esbuild from 'esbuild';\n"
                        "const here = path.dirname(fileURLToPath(import.meta.url));\nawait esbuild.build({\n"
                        "  entryPoints: ['./src/main.js'], bundle: true, outfile: 'out.js',\n"
                        "  alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) },\n});\n"},
                       {"src/main.js", "import { tide } from '@/tide.js';\nconsole.log(tide);\n"},
                       {"src/tide.js", "export const tide = 4;\n"}});
  const std::string build =
      "ln -s \"$(dirname \"$(dirname \"$(command -v esbuild)\")\")\" node_modules && node build.config.mjs "
      "&& node out.js";
  expect_lines(tree, "src -> app\n", {"['./app/main.js']", "new URL('./app', import.meta.url)"}, build);
  expect_lines(tree, "src/tide.js -> src/water/tide.js\n", {"'@/water/tide.js'"}, build);
}

TEST(WebShapes, what_was_broken_before_is_left_alone) {
  Files files = dashboard();
  files.push_back({"src/old.js", "import './gone'; import missing from '../nowhere/missing.js';\n"});
  files.push_back({"README.md", "See src/charts/draw.ts.\n"});
  Workspace tree(files);
  Outcome moved = expect_move_keeps_build(tree, "src/old.js -> attic/old.js\n", kBuild);
  EXPECT_NE(moved.out.find("none are needed"), std::string::npos) << moved.told;
}

// Two packages that a third one uses by their names; the links that a package manager would make are made by
// the build.
Files neighbours() {
  auto manifest = [](const std::string& name) {
    return "{ \"name\": \"@salt/" + name +
           "\", \"type\": \"module\", \"main\": \"./dist/index.js\",\n  \"exports\": { \".\": { \"types\": "
           "\"./dist/index.d.ts\", \"default\": \"./dist/index.js\" }, \"./*\": { \"types\": "
           "\"./dist/*.d.ts\", \"default\": "
           "\"./dist/*.js\" } } }\n";
  };
  auto settings = [](const std::string& references) {
    return "{ \"extends\": \"../../base.json\", \"compilerOptions\": { \"rootDir\": \"src\", \"outDir\": "
           "\"dist\" }, \"include\": "
           "[\"src\"], \"references\": [" +
           references + "] }\n";
  };
  return {
      {"package.json", "{ \"private\": true, \"workspaces\": [\"packages/*\", \"apps/*\"] }\n"},
      {".gitignore", "node_modules\ndist\n"},
      {"base.json",
       R"({"compilerOptions": {"composite": true, "strict": true, "module": "nodenext", "target": "es2022"}})"},
      {"packages/level/package.json", manifest("level")},
      {"packages/level/tsconfig.json", settings("")},
      {"packages/level/src/index.ts", "export const level = 3;\nexport * from './scale.js';\n"},
      {"packages/level/src/scale.ts", "export const scale = 10;\n"},
      {"packages/view/package.json", manifest("view")},
      {"packages/view/tsconfig.json", settings("{ \"path\": \"../level\" }")},
      {"packages/view/src/index.ts",
       "import { level } from '@salt/level';\nimport { scale } from '@salt/level/scale';\n"
       "export const view = level * scale;\n"},
      {"apps/board/package.json", "{ \"name\": \"board\", \"type\": \"module\" }\n"},
      {"apps/board/tsconfig.json",
       settings(
           "{ \"path\": \"../../packages/view\" }, { \"path\": \"../../packages/level/tsconfig.json\" }")},
      {"apps/board/src/main.ts", "import { view } from '@salt/view';\nconsole.log(view);\n"}};
}

// `npm pack` tells what is published.
TEST(WebShapes, modules_that_leave_a_published_folder_are_published_still) {
  Files files = {{"package.json",
                  "{ \"name\": \"tides\", \"version\": \"1.0.0\", \"main\": \"src/index.js\",\n  "
                  "\"files\": [\"src\", \"es/\"] }\n"},
                 {"src/index.js", "exports.level = require('./internal/level').level;\n"},
                 {"src/internal/level.js", "exports.level = require('./scale') * 3;\n"},
                 {"src/internal/scale.js", "module.exports = 2;\n"},
                 {"es/index.js", "export const level = 6;\n"}};
  const std::string build =
      "node -e \"console.log(require('.').level)\" && "
      "npm pack --dry-run --json 2>/dev/null | grep '\"path\"' | sed 's/.*\\///' | sort";
  expect_lines(Workspace(files), "src/internal -> internal\n", {"[\"src\", \"internal\", \"es/\"]"}, build);
  expect_lines(Workspace(files), "src/internal/scale.js -> common/scale.js\n",
               {"[\"src\", \"common\", \"es/\"]"}, build);
  expect_lines(Workspace(files), "src -> lib\n", {"[\"lib\", \"es/\"]"}, build);
}

TEST(WebShapes, packages_of_a_workspace) {
  const std::string build =
      "at() { dirname \"$(grep -rl --include=package.json \"\\\"name\\\": \\\"$1\\\"\" . | head -1)\"; }; "
      "mkdir -p node_modules/@salt; "
      "for p in level view; do ln -s \"../../$(at @salt/$p)\" node_modules/@salt/$p; done; "
      "board=$(at board); tsc -b \"$board\" && node \"$board/dist/main.js\"";
  expect_lines(Workspace(neighbours()),
               "packages/level -> libs/level\npackages/level/src/scale.ts -> "
               "libs/level/src/units/scale.ts\nbase.json -> config/base.json\n",
               {"\"packages/*\", \"libs/*\"", "\"path\": \"../../libs/level\"",
                "from '@salt/level/units/scale'", "from './units/scale.js'", "\"../../config/base.json\""},
               build);
}

TEST(WebShapes, a_folder_that_settings_name_and_whose_index_gets_another_name) {
  Workspace tree({{"tsconfig.json",
                   "{\"compilerOptions\": {\"noEmit\": true, \"module\": \"esnext\", \"moduleResolution\": "
                   "\"bundler\", \"types\": [], \"paths\": {\"@lib\": [\"./src/lib\"], \"@lib/*\": "
                   "[\"./src/lib/*\"]}}, \"include\": [\"src\"]}\n"},
                  {"src/main.ts", "import { unit } from \"@lib\";\nexport const shown = unit;\n"},
                  {"src/lib/index.ts", "export const unit = \"cm\";\n"}});
  expect_lines(tree, "src/lib/index.ts -> src/lib/units.ts\n", {"from \"@lib/units\""}, "tsc -p .");
}

TEST(WebShapes, what_a_manifest_publishes_by_a_pattern_stays_published) {
  Workspace tree({{"package.json",
                   "{\"name\": \"tide\", \"version\": \"1.0.0\", \"main\": \"lib/index.js\", \"files\": "
                   "[\"lib/**/*.js\"]}\n"},
                  {"lib/index.js", "module.exports = require('./net/level.js');\n"},
                  {"lib/net/level.js", "module.exports = 3;\n"}});
  Outcome deeper = tree.run({"move", "lib/net/level.js", "lib/deep/er/", "--preview"});
  EXPECT_EQ(deeper.status, 0) << deeper.told;
  EXPECT_EQ(deeper.out.find("package.json"), std::string::npos) << "the pattern still holds it\n"
                                                                << deeper.told;
  Outcome moved = tree.run({"move", "lib/net/level.js", "src/"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(tree.read("package.json").find("[\"lib/**/*.js\", \"src/level.js\"]"), std::string::npos)
      << moved.told;
}

}  // namespace
}  // namespace yc::test
