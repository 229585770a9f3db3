// Paths that programs of Node.js put together: each project is moved, run, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const std::string kRun = "node $(find . -name main.js -o -name main.mjs)";

Files tides(const std::string& code, const std::string& main = "src/main.js") {
  return {{main, code},
          {"package.json", "{ \"name\": \"tide\", \"version\": \"1.0.0\" }\n"},
          {"src/tides/low.csv", "1\n"},
          {"src/tides/high.csv", "2\n"},
          {"src/station.js", "exports.station = 1;\n"}};
}

const std::string kHead = "const fs = require('fs'), path = require('path'), assert = require('assert');\n";

TEST(NodePathShapes, of_a_program_that_goes_on_from_its_own_folder) {
  for (const std::string code :
       {"fs.readFileSync(__dirname + '/tides/low.csv');\n",
        "fs.readFileSync(`${__dirname}/tides/low.csv`);\n",
        "const TIDES = path.join(__dirname, 'tides');\nfs.readFileSync(path.join(TIDES, 'low.csv'));\n"
        "fs.readFileSync(`${TIDES}/low.csv`);\n",
        "const ROOT = path.resolve(__dirname, '..');\nfs.readFileSync(path.join(ROOT, 'src', 'tides', "
        "'low.csv'));\n",
        "const here = path.dirname(__filename);\nfs.readFileSync(path.join(here, 'tides/low.csv'));\n",
        "fs.readFileSync(path.join(path.dirname(__dirname), 'src/tides/low.csv'));\n"}) {
    Workspace tree(tides(kHead + code));
    for (const std::string sheet :
         {"src/tides/low.csv -> src/levels/low.csv\n", "src/tides/ -> data/tides/\n", "src/ -> app/src/\n"}) {
      // A root that is climbed to does not go along.
      bool climbs = code.find("ROOT") != std::string::npos && sheet.starts_with("src/ ");
      if (!climbs) expect_move_keeps_build(tree, sheet, kRun);
    }
    expect_move_keeps_build(tree, "src/main.js -> src/tools/main.js\n", kRun + " || echo told");
  }
}

TEST(NodePathShapes, of_a_module_by_its_address) {
  Workspace tree(
      tides("import fs from 'fs'; import path from 'path'; import { fileURLToPath } from 'url';\n"
            "const here = path.dirname(fileURLToPath(import.meta.url));\nfs.readFileSync(path.join(here, "
            "'tides', 'low.csv'));\n"
            "fs.readFileSync(new URL('./tides/high.csv', import.meta.url));\n",
            "src/main.mjs"));
  expect_move_says(tree, "src/tides/ -> src/levels/\n",
                   {"path.join(here, 'levels', 'low.csv')", "new URL('./levels/high.csv'"}, kRun);
  expect_move_keeps_build(tree, "src/main.mjs -> src/tools/deep/main.mjs\n", kRun);
}

TEST(NodePathShapes, files_that_a_pattern_or_a_name_put_together_finds) {
  Workspace tree(
      tides(kHead +
            "const glob = (one) => fs.readdirSync(path.dirname(one));\n"
            "assert.equal(glob(path.join(__dirname, 'tides', '*.csv')).length, 2);\n"
            "for (const one of ['low', 'high']) fs.readFileSync(`${__dirname}/tides/${one}.csv`);\n"));
  expect_move_keeps_build(tree, "src/tides/ -> src/levels/\n", kRun);
  Outcome refused = tree.run({"move", "src/tides/low.csv", "src/low.csv"});
  EXPECT_EQ(refused.status, 3) << refused.told;
}

TEST(NodePathShapes, folder_that_is_listed_or_gone_into) {
  for (const std::string code :
       {"fs.readdirSync(path.join(__dirname, 'tides')).forEach((one) => one);\n",
        "for (const one of fs.readdirSync('.')) fs.existsSync(path.join(__dirname, 'tides', one));\n"}) {
    Workspace tree(tides(kHead + code));
    expect_move_keeps_build(tree, "src/tides/ -> src/levels/\n", kRun);
    Outcome refused = tree.run({"move", "src/tides/low.csv", "src/low.csv"});
    EXPECT_EQ(refused.status, 3) << code << refused.told;
  }
}

TEST(NodePathShapes, loops_over_names_and_functions_that_take_them) {
  Workspace tree(
      tides(kHead + "for (const one of ['low.csv']) fs.readFileSync(path.join(__dirname, 'tides', one));\n"
                    "const table = (name) => fs.readFileSync(path.join(__dirname, 'tides', name), 'utf8');\n"
                    "table('low.csv');\ntable('high.csv');\n"));
  expect_move_keeps_build(tree, "src/tides/ -> src/levels/\n", kRun);
  expect_move_says(tree, "src/tides/low.csv -> src/tides/ebb.csv\n", {"['ebb.csv']", "table('ebb.csv')"},
                   kRun);
  expect_move_keeps_build(tree, "src/tides/low.csv -> low.csv\n", kRun);
}

TEST(NodePathShapes, programs_that_climb_by_calls) {
  Workspace tree(
      {{"tools/gen/show.js",
        "const fs = require('fs'), path = require('path');\n"
        "const ROOT = path.dirname(path.dirname(__dirname));\nexports.root = path.dirname(__dirname);\n"
        "fs.readFileSync(path.join(ROOT, 'data', 'low.csv'));\n"
        "fs.readFileSync(path.join(exports.root, 'words.txt'));\n"
        "fs.readFileSync(`${ROOT}/data/high.csv`);\n"},
       {"tools/words.txt", "a\n"},
       {"top.js", "const fs = require('fs');\nprocess.chdir(__dirname);\nfs.readFileSync('data/low.csv');\n"},
       {"data/low.csv", "1\n"},
       {"data/high.csv", "2\n"}});
  auto run = [](const std::string& name) { return "P=$PWD; cd / && node $(find $P -name " + name + ")"; };
  expect_move_says(tree, "tools/gen/show.js -> tools/gen/deep/show.js\n",
                   {"ROOT = path.dirname(path.dirname(path.dirname(__dirname)))"}, run("show.js"));
  expect_move_says(tree, "tools/gen/show.js -> tools/show.js\n",
                   {"ROOT = path.dirname(__dirname)", "exports.root = __dirname"}, run("show.js"));
  expect_move_says(tree, "top.js -> tools/top.js\n", {"process.chdir(__dirname + \"/..\")"}, run("top.js"));
}

TEST(NodePathShapes, words_of_a_command_and_patterns_from_the_top) {
  Workspace tree(
      tides("const { execSync } = require('child_process'), assert = require('assert');\n"
            "execSync('node src/station.js --all');\nconst found = 'src/tides/*.csv';\n"
            "assert.equal(execSync('ls ' + found).toString().trim().split('\\n').length, 2);\n"));
  expect_move_says(tree, "src/station.js -> src/parts/station.js\nsrc/tides/ -> data/tides/\n",
                   {"execSync('node src/parts/station.js --all')", "found = 'data/tides/*.csv'"}, kRun);
}

TEST(NodePathShapes, module_that_leaves_an_alias_with_an_ending_gets_one) {
  Files files = {{"package.json",
                  "{ \"name\": \"tide\", \"version\": \"1.0.0\", \"type\": \"module\",\n"
                  "  \"imports\": { \"#parts/*\": \"./src/parts/*.js\" } }\n"},
                 {"src/main.js", "import { level } from '#parts/level';\nif (!level) throw 1;\n"},
                 {"src/parts/level.js", "export const level = 1;\n"},
                 {"src/parts/gauge.js", "export const gauge = 1;\n"}};
  expect_move_says(Workspace(files), "src/parts/level.js -> src/level.js\n", {"from './level.js'"}, kRun);
}

// Node.js takes a script for an ES module or not by the nearest package.json.
TEST(NodePathShapes, script_that_would_be_taken_for_another_kind_of_module) {
  Workspace tree(Files{{"package.json", "{ \"name\": \"tide\", \"type\": \"module\" }\n"},
                       {"main.js", "import gauge from './lib/gauge.js';\nif (gauge.level !== 1) throw 1;\n"},
                       {"es/pole.js", "export const pole = 2;\n"},
                       {"lib/package.json", "{ \"type\": \"commonjs\" }\n"},
                       {"data/package.json", "{ }\n"},
                       {"lib/gauge.js", "module.exports = require('./level.js');\n"},
                       {"lib/level.js", "// import it\nexports.level = 1;\n"},
                       {"lib/table.js", "console.log('export it');\n"}});
  expect_move_keeps_build(tree, "lib/gauge.js -> lib/deep/gauge.js\n", "node main.js");
  expect_move_keeps_build(tree, "lib/ -> common/\n", "node main.js");
  expect_move_keeps_build(tree, "lib/gauge.js -> gauge.cjs\n", "node main.js");
  expect_move_keeps_build(tree, "lib/table.js -> table.js\n", "node main.js");
  expect_refusal(tree, "lib/level.js -> level.js\n",
                 {"lib/level.js: would be taken for an ES module at level.js, by \"type\" in package.json",
                  "give it the ending .mjs or .cjs there, or keep it below lib/package.json"});
  expect_refusal(tree, "es/pole.js -> lib/pole.js\n", {"for a CommonJS module at lib/pole.js"});
  expect_refusal(tree, "lib/package.json -> kept/package.json\n", {"for an ES module at lib/gauge.js"});
  expect_move_keeps_build(tree, "es/pole.js -> data/pole.js\n", "node main.js");
  // What takes the others so takes one more.
  tree.write("lib/bundled.js", "export const bundled = 3;\n");
  expect_move_keeps_build(tree, "es/pole.js -> lib/pole.js\n", "node main.js");
}

TEST(NodePathShapes, typed_module_that_would_be_compiled_to_another_kind) {
  Workspace tree(Files{{"package.json", "{ \"name\": \"tide\", \"type\": \"module\" }\n"},
                       {"tsconfig.json", "{ \"compilerOptions\": { \"module\": \"NodeNext\" } }\n"},
                       {"src/pole.ts", "export const pole = 2;\n"},
                       {"src/gauge.ts", "export const gauge = 2;\n"},
                       {"old/package.json", "{ \"name\": \"old\" }\n"}});
  expect_refusal(tree, "src/pole.ts -> old/pole.ts\n", {"give it the ending .mts or .cts there"});
  tree.write("tsconfig.json", "{ \"compilerOptions\": { \"module\": \"esnext\" } }\n");
  expect_move_keeps_build(tree, "src/pole.ts -> old/pole.ts\n", "true");
}

}  // namespace
}  // namespace yc::test
