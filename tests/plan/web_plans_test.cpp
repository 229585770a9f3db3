// Plans for trees of web projects, a table: what moves, and every edit that follows.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;

TEST(WebPlans, specifiers_of_modules) {
  expect_edits({
      {"an ending that is left out stays so",
       {{"src/main.ts", "import { level } from './level';\n"}, {"src/level.ts", "export const level = 7;\n"}},
       {{"src/level.ts", "src/water/level.ts"}},
       {"src/main.ts: ./level -> ./water/level"}},
      {"one that is written stays written",
       {{"src/main.mjs", "import level from './level.mjs';\n"}, {"src/level.mjs", "export default 7;\n"}},
       {{"src/level.mjs", "lib/level.mjs"}},
       {"src/main.mjs: ./level.mjs -> ../lib/level.mjs"}},
      {"what is written for the output leads to its source",
       {{"src/main.ts", "import { level } from './level.js';\n"},
        {"src/level.ts", "export const level = 7;\n"}},
       {{"src/level.ts", "src/a/level.ts"}},
       {"src/main.ts: ./level.js -> ./a/level.js"}},
      {"an index is named by its folder",
       {{"src/main.ts", "export * from './water';\n"}, {"src/water/index.ts", "export const a = 1;\n"}},
       {{"src/water", "src/sea/water"}},
       {"src/main.ts: ./water -> ./sea/water"}},
      {"the user moves and what it names stays",
       {{"src/main.ts", "import './level';\nimport type { A } from './level';\n"},
        {"src/level.ts", "export type A = 1;\n"}},
       {{"src/main.ts", "src/app/main.ts"}},
       {"src/main.ts: ./level -> ../level", "src/main.ts: ./level -> ../level"}},
      {"both move together",
       {{"src/main.ts", "import './level';\n"}, {"src/level.ts", "export {};\n"}, {"src/other.ts", ""}},
       {{"src/main.ts", "app/main.ts"}, {"src/level.ts", "app/level.ts"}},
       {}},
      {"types, calls and comments that name a module",
       {{"a/use.ts",
         "let x: import('./b').B;\nconst y = await import('./b');\n/** @type {import('./b').B} */\nlet z;\n"},
        {"a/b.ts", "export type B = 1;\n"}},
       {{"a/b.ts", "c/b.ts"}},
       {"a/use.ts: ./b -> ../c/b", "a/use.ts: ./b -> ../c/b", "a/use.ts: ./b -> ../c/b"}},
      {"an address relative to the module",
       {{"src/main.js", "const u = new URL('./tide.svg', import.meta.url);\n"}, {"src/tide.svg", "<svg/>"}},
       {{"src/tide.svg", "assets/tide.svg"}},
       {"src/main.js: ./tide.svg -> ../assets/tide.svg"}},
      {"queries stay behind what they ask for",
       {{"src/main.ts", "import css from './look.css?inline';\n"}, {"src/look.css", "a { }\n"}},
       {{"src/look.css", "src/css/look.css"}},
       {"src/main.ts: ./look.css -> ./css/look.css"}},
      {"a test double names the module that it stands for",
       {{"src/a.test.ts", "jest.mock('./a');\nimport { a } from './a';\n"},
        {"src/a.ts", "export const a = 1;\n"}},
       {{"src/a.ts", "src/in/a.ts"}},
       {"src/a.test.ts: ./a -> ./in/a", "src/a.test.ts: ./a -> ./in/a"}},
      {"a package that is called like a folder is another thing",
       {{"src/main.ts", "import { join } from 'path';\nimport x from 'water';\n"},
        {"src/path/index.ts", ""},
        {"water/index.ts", ""}},
       {{"src/path", "src/paths"}, {"water", "sea"}},
       {}},
  });
}

TEST(WebPlans, aliases) {
  const std::string paths =
      "{ \"compilerOptions\": { \"baseUrl\": \".\", \"paths\": { \"@/*\": [\"src/*\"], \"common/types\": "
      "[\"src/common/types.ts\"] } } }\n";
  expect_edits({
      {"a file moves below the folder of the alias",
       {{"tsconfig.json", paths}, {"src/main.ts", "import '@/level';\n"}, {"src/level.ts", ""}},
       {{"src/level.ts", "src/water/level.ts"}},
       {"src/main.ts: @/level -> @/water/level"}},
      {"it leaves that folder",
       {{"tsconfig.json", paths}, {"src/main.ts", "import '@/level';\n"}, {"src/level.ts", ""}},
       {{"src/level.ts", "lib/level.ts"}},
       {"src/main.ts: @/level -> ../lib/level"}},
      {"an alias that looks like a package follows its one file",
       {{"tsconfig.json", paths},
        {"src/main.ts", "import type { A } from 'common/types';\n"},
        {"src/common/types.ts", "export type A = 1;\n"}},
       {{"src/common/types.ts", "src/shared/types.ts"}},
       {"tsconfig.json: src/common/types.ts -> src/shared/types.ts"}},
      {"the whole folder goes, and the alias with it",
       {{"tsconfig.json", paths}, {"src/main.ts", "import '@/level';\n"}, {"src/level.ts", ""}},
       {{"src", "app/src"}},
       {"tsconfig.json: src -> app/src"}},
      {"comments and trailing commas in settings stay",
       {{"tsconfig.json",
         "{\n  // where it is\n  \"compilerOptions\": { \"paths\": { \"~/*\": [\"./lib/*\",], }, },\n}\n"},
        {"lib/a.ts", ""},
        {"use.ts", "import '~/a';\n"}},
       {{"lib", "core"}},
       {"tsconfig.json: ./lib -> ./core"}},
      {"settings that another file extends",
       {{"base/tsconfig.json", "{ \"compilerOptions\": { \"strict\": true } }\n"},
        {"tsconfig.json", "{ \"extends\": \"./base/tsconfig.json\" }\n"}},
       {{"base/tsconfig.json", "settings/tsconfig.json"}},
       {"tsconfig.json: ./base/tsconfig.json -> ./settings/tsconfig.json"}},
      {"references may name a file",
       {{"tsconfig.json",
         "{ \"files\": [], \"references\": [{ \"path\": \"./lib/tsconfig.build.json\" }, { \"path\": \"app\" "
         "}] }\n"},
        {"lib/tsconfig.build.json", "{}\n"},
        {"app/tsconfig.json", "{}\n"}},
       {{"lib", "packages/lib"}, {"app", "packages/app"}},
       {"tsconfig.json: ./lib/tsconfig.build.json -> ./packages/lib/tsconfig.build.json",
        "tsconfig.json: app -> packages/app"}},
  });
}

TEST(WebPlans, manifests) {
  expect_edits({
      {"entries, files and scripts",
       {{"package.json",
         "{ \"name\": \"tide\", \"main\": \"./lib/main.js\", \"bin\": { \"tide\": \"lib/cli.js\" },\n"
         "  \"scripts\": { \"start\": \"node lib/main.js --quiet\" } }\n"},
        {"lib/main.js", ""},
        {"lib/cli.js", "#!/usr/bin/env node\n"}},
       {{"lib", "src"}},
       {"package.json: ./lib/main.js -> ./src/main.js", "package.json: lib/cli.js -> src/cli.js",
        "package.json: lib/main.js -> src/main.js ?"}},
      {"an output that was never there is left alone",
       {{"package.json",
         "{ \"name\": \"tide\", \"main\": \"dist/main.js\", \"types\": \"dist/main.d.ts\" }\n"},
        {"src/main.ts", ""}},
       {{"src/main.ts", "src/app/main.ts"}},
       {}},
      {"inner names lead to the moved file",
       {{"package.json", "{ \"name\": \"tide\", \"imports\": { \"#level\": \"./src/level.js\" } }\n"},
        {"src/level.js", ""},
        {"src/main.js", "import '#level';\n"}},
       {{"src/level.js", "src/water/level.js"}},
       {"package.json: ./src/level.js -> ./src/water/level.js"}},
      {"members of a workspace by a pattern",
       {{"package.json", "{ \"private\": true, \"workspaces\": [\"packages/*\"] }\n"},
        {"packages/a/package.json", "{ \"name\": \"a\" }\n"},
        {"packages/b/package.json", "{ \"name\": \"b\" }\n"}},
       {{"packages", "libs"}},
       {"package.json: packages/* -> libs/*"}},
  });
}

TEST(WebPlans, stylesheets) {
  expect_edits({
      {"a partial without its mark and ending",
       {{"css/main.scss", "@use 'look/colours';\n@import \"look/space\";\n"},
        {"css/look/_colours.scss", ""},
        {"css/look/_space.scss", ""}},
       {{"css/look", "css/base"}},
       {"css/main.scss: look/colours -> base/colours", "css/main.scss: look/space -> base/space"}},
      {"names that are forwarded",
       {{"css/_index.scss", "@forward 'a' hide $x;\n@forward \"b\" as b-*;\n"},
        {"css/_a.scss", ""},
        {"css/_b.scss", ""}},
       {{"css/_b.scss", "css/parts/_b.scss"}},
       {"css/_index.scss: b -> parts/b"}},
      {"urls keep their parts behind the path",
       {{"css/main.css", "a { background: url(../img/a.png?v=2#x); b: url( \"../img/a.png\" ); }\n"},
        {"img/a.png", ""}},
       {{"img", "assets/img"}},
       {"css/main.css: ../img/a.png -> ../assets/img/a.png",
        "css/main.css: ../img/a.png -> ../assets/img/a.png"}},
      {"composed classes of another sheet",
       {{"a.module.css", ".x { composes: y from './b.module.css'; }\n"}, {"b.module.css", ".y { }\n"}},
       {{"b.module.css", "css/b.module.css"}},
       {"a.module.css: ./b.module.css -> ./css/b.module.css"}},
      {"images of several densities and fonts",
       {{"s.css",
         "a { background: image-set('i.png' 1x, url(i2.png) 2x); }\n@font-face { src: url(f.woff2) "
         "format('woff2'); }\n"},
        {"i.png", ""},
        {"i2.png", ""},
        {"f.woff2", ""}},
       {{"i.png", "a/i.png"}, {"i2.png", "a/i2.png"}, {"f.woff2", "a/f.woff2"}},
       {"s.css: i.png -> a/i.png", "s.css: i2.png -> a/i2.png", "s.css: f.woff2 -> a/f.woff2"}},
      {"what looks like a path and is none",
       {{"s.css",
         "a { content: 'i.png'; background: url(data:image/png;base64,AA) url(https://x.example/i.png) "
         "url(#i); }\n"},
        {"i.png", ""}},
       {{"i.png", "a/i.png"}},
       {}},
      {"less with options",
       {{"m.less", "@import (reference) \"vars\";\n@import (css) url(plain.css);\n"},
        {"vars.less", ""},
        {"plain.css", ""}},
       {{"vars.less", "less/vars.less"}, {"plain.css", "less/plain.css"}},
       {"m.less: vars -> less/vars", "m.less: plain.css -> less/plain.css"}},
  });
}

TEST(WebPlans, pages) {
  expect_edits({
      {"attributes of every kind",
       {{"index.html",
         "<link rel=\"stylesheet\" href=\"css/a.css\"><img src='i/a.png' srcset='i/a.png 1x, i/b.png 2x'>\n"
         "<video poster=i/a.png></video><object data=\"i/b.png\"></object>\n"},
        {"css/a.css", ""},
        {"i/a.png", ""},
        {"i/b.png", ""}},
       {{"i", "img"}, {"css", "styles"}},
       {"index.html: css/a.css -> styles/a.css", "index.html: i/a.png -> img/a.png",
        "index.html: i/a.png -> img/a.png", "index.html: i/b.png -> img/b.png",
        "index.html: i/a.png -> img/a.png", "index.html: i/b.png -> img/b.png"}},
      {"a page at another depth",
       {{"a.html",
         "<a href=\"b.html#top\">b</a> <a href='b.html?x=1'>b</a> <a href=\"mailto:a@b.example\">m</a>\n"},
        {"b.html", "<a href=\"a.html\">a</a>\n"}},
       {{"a.html", "pages/a.html"}},
       {"a.html: b.html -> ../b.html", "a.html: b.html -> ../b.html", "b.html: a.html -> pages/a.html"}},
      {"from the root of the site",
       {{"public/index.html", "<img src=\"/img/a.png\">\n"}, {"public/img/a.png", ""}},
       {{"public/img/a.png", "public/pictures/a.png"}},
       {"public/index.html: img/a.png -> pictures/a.png"}},
      {"a base element",
       {{"index.html", "<base href=\"assets/\"><img src=\"a.png\">\n"},
        {"assets/a.png", ""},
        {"assets/b.png", ""}},
       {{"assets/a.png", "assets/img/a.png"}},
       {"index.html: a.png -> img/a.png"}},
      {"a base element whose folder moves",
       {{"index.html", "<base href=\"assets/\"><img src=\"a.png\">\n"},
        {"assets/a.png", ""},
        {"assets/b.png", ""}},
       {{"assets", "img"}},
       {"index.html: assets/ -> img/"}},
      {"scripts and styles within a page",
       {{"index.html",
         "<script type=\"module\">import './app/main.js';</script>\n<style>a { background: url(i/a.png); "
         "}</style>\n"},
        {"app/main.js", ""},
        {"i/a.png", ""}},
       {{"app", "src"}, {"i", "img"}},
       {"index.html: ./app/main.js -> ./src/main.js", "index.html: i/a.png -> img/a.png"}},
      {"an import map",
       {{"index.html",
         "<script type=\"importmap\">{ \"imports\": { \"level\": \"./lib/level.js\" } }</script>\n"
         "<script type=\"module\">import 'level';</script>\n"},
        {"lib/level.js", ""}},
       {{"lib", "src"}},
       {"index.html: ./lib/level.js -> ./src/level.js"}},
      {"locations in a site map",
       {{"public/index.html", "<p>\n"},
        {"public/pages/a.html", "<p>\n"},
        {"public/sitemap.xml",
         "<urlset><url><loc>https://tide.example/pages/a.html</loc></url><url><loc>https://tide.example/"
         "index.html</loc>"
         "</url></urlset>\n"}},
       {{"public/pages/a.html", "public/stations/a.html"}},
       {"public/sitemap.xml: pages/a.html -> stations/a.html ?"}},
      {"a site map of another site",
       {{"pages/a.html", "<p>\n"},
        {"sitemap.xml",
         "<urlset><url><loc>https://x.example/pages/a.html</loc></url><url><loc>https://x.example/b.html</"
         "loc></url>"
         "<url><loc>https://x.example/c.html</loc></url></urlset>\n"}},
       {{"pages/a.html", "stations/a.html"}},
       {}},
      {"templates that name others",
       {{"templates/list.html",
         "{% extends \"base/page.html\" %}\n{%- include 'parts/head.html' -%}\n{{ \"parts/head.html\" }}\n"},
        {"templates/base/page.html", ""},
        {"templates/parts/head.html", ""}},
       {{"templates/parts/head.html", "templates/blocks/head.html"},
        {"templates/list.html", "templates/stations/list.html"}},
       {"templates/list.html: parts/head.html -> blocks/head.html ?"}},
      {"templates that name others beside them",
       {{"views/list.ejs", "<%- include('head.ejs') %>\n"}, {"views/head.ejs", ""}},
       {{"views/list.ejs", "views/stations/list.ejs"}},
       {"views/list.ejs: head.ejs -> ../head.ejs ?"}},
      {"links that were broken before stay as they are",
       {{"index.html", "<a href=\"gone.html\">x</a><a href=\"b.html\">b</a>\n"}, {"b.html", ""}},
       {{"index.html", "site/index.html"}, {"b.html", "site/b.html"}},
       {}},
  });
}

// A template engine finds only what lies in its folders.
TEST(WebPlans, a_template_that_leaves_the_folder_of_templates_is_told) {
  Plan plan = planned(
      {{"templates/list.html", "{% include 'parts/head.html' %}\n"}, {"templates/parts/head.html", ""}},
      {{"templates/parts/head.html", "shared/head.html"}});
  EXPECT_THAT(reasons(plan), ElementsAre("lost templates/list.html"));
}

TEST(WebPlans, what_is_put_together_is_said_only_where_it_could_lead_there) {
  TreeFiles files = {{"src/main.ts", "export const load = (n: string) => import(`./pages/${n}`);\n"},
                     {"src/pages/a.ts", ""},
                     {"src/other/b.ts", ""}};
  EXPECT_THAT(reasons(planned(files, {{"src/pages/a.ts", "src/a.ts"}})), ElementsAre("lost src/main.ts"));
  EXPECT_THAT(edits(planned(files, {{"src/other/b.ts", "src/b.ts"}})), IsEmpty());
  EXPECT_THAT(edits(planned(files, {{"src/pages", "src/views"}})),
              ElementsAre("src/main.ts: ./pages -> ./views"));
}

// "rootDirs": what lies at one place below several folders lies in one.
TEST(WebPlans, folders_that_are_merged) {
  TreeFiles files = {
      {"tsconfig.json", "{ \"compilerOptions\": { \"rootDirs\": [\"src/views\", \"made/views\"] } }\n"},
      {"src/views/main.ts", "import { level } from \"./parts/level\";\nimport \"./own\";\n"},
      {"src/views/own.ts", "export {};\n"},
      {"src/views/parts/use.ts", "import { level } from \"./level\";\n"},
      {"made/views/parts/level.ts", "export const level = 1;\n"},
      {"made/views/parts/other.ts", "export {};\n"}};
  expect_edits({
      {"a module of the other folder",
       files,
       {{"made/views/parts/level.ts", "made/views/height.ts"}},
       {"src/views/main.ts: ./parts/level -> ./height", "src/views/parts/use.ts: ./level -> ../height"}},
      {"the other folder",
       files,
       {{"made/views", "generated/views"}},
       {"tsconfig.json: made/views -> generated/views"}},
      {"a user goes deeper, and what it is merged with does not",
       files,
       {{"src/views/parts/use.ts", "src/views/parts/in/use.ts"}},
       {"src/views/parts/use.ts: ./level -> ../level"}},
      {"out of all of them",
       files,
       {{"made/views/parts/level.ts", "src/level.ts"}},
       {"src/views/main.ts: ./parts/level -> ../level", "src/views/parts/use.ts: ./level -> ../../level"}},
  });
}

TEST(WebPlans, files_that_leave_a_published_folder) {
  TreeFiles files = {
      {"package.json",
       "{\n  \"name\": \"tide\",\n  \"files\": [\n    \"src\",\n    \"tools/run.js\"\n  ]\n}\n"},
      {"src/a.ts", "export {};\n"},
      {"src/b.ts", "export {};\n"},
      {"src/c.ts", "export {};\n"},
      {"tools/run.js", ""},
      {"own.ts", "export {};\n"}};
  expect_edits({
      {"all that a new folder holds",
       files,
       {{"src/a.ts", "lib/a.ts"}, {"src/b.ts", "lib/b.ts"}},
       {"package.json:  -> ,\n    \"lib\""}},
      {"beside what is not published",
       files,
       {{"src/a.ts", "lib/a.ts"}, {"src/b.ts", "lib/b.ts"}, {"own.ts", "lib/own.ts"}},
       {"package.json:  -> ,\n    \"lib/a.ts\",\n    \"lib/b.ts\""}},
      {"a file that is listed itself",
       files,
       {{"tools/run.js", "bin/run.js"}},
       {"package.json: tools/run.js -> bin/run.js"}},
      {"a file that comes to a folder which is listed",
       files,
       {{"tools/run.js", "src/run.js"}},
       {"package.json: ,\n    \"tools/run.js\" -> "}},
  });
}

TEST(WebPlans, a_module_that_changes_its_package) {
  const TreeFiles files = {
      {"package.json",
       "{\n  \"workspaces\": [\"packages/*\"],\n  \"devDependencies\": {\n    \"lint\": \"1\"\n  }\n}\n"},
      {"packages/chart/package.json",
       "{\n  \"name\": \"@tide/chart\",\n  \"dependencies\": {\n    \"d3-scale\": \"^4.0\",\n    "
       "\"@sea/wave\": "
       "\"2\"\n  },\n  \"devDependencies\": {\n    \"drill\": \"3\"\n  }\n}\n"},
      {"packages/chart/axis.js",
       "import { scaleLinear } from 'd3-scale/src/linear';\nimport '@sea/wave';\nimport 'lint';\nimport "
       "'node:fs';\nimport 'unknown';\n"},
      {"packages/chart/axis.test.js", "import 'drill';\n"},
      {"packages/page/package.json",
       "{\n  \"name\": \"page\",\n  \"dependencies\": {\n    \"colour\": \"1\",\n    \"sun\": \"1\"\n  "
       "}\n}\n"},
      {"packages/bare/package.json", "{\n  \"name\": \"bare\"\n}\n"}};
  Plan plan = planned(files, {{"packages/chart/axis.js", "packages/page/axis.js"}});
  EXPECT_THAT(reasons(plan), ElementsAre("unit-reference packages/page/package.json",
                                         "unit-reference packages/page/package.json"));
  EXPECT_EQ(plan.blockers[0].text, "d3-scale");
  EXPECT_THAT(told(plan), Contains("unit-change packages/chart/axis.js leaves package @tide/chart for page"));
  PlanOptions options;
  options.link_units = true;
  auto manifest_after = [&](const TreeMoves& moves, const std::string& path) {
    Plan linked = planned(files, moves, options);
    EXPECT_TRUE(linked.verified);
    auto before =
        std::find_if(files.begin(), files.end(), [&](const auto& file) { return file.first == path; });
    auto edits = linked.edits.find(at(path));
    return edits == linked.edits.end() ? before->second : edits->second.apply(before->second);
  };
  EXPECT_EQ(
      manifest_after({{"packages/chart/axis.js", "packages/page/axis.js"}}, "packages/page/package.json"),
      "{\n  \"name\": \"page\",\n  \"dependencies\": {\n    \"@sea/wave\": \"2\",\n    \"colour\": \"1\",\n  "
      "  "
      "\"d3-scale\": \"^4.0\",\n    \"sun\": \"1\"\n  }\n}\n");
  EXPECT_EQ(manifest_after({{"packages/chart/axis.test.js", "packages/bare/axis.test.js"}},
                           "packages/bare/package.json"),
            "{\n  \"name\": \"bare\",\n  \"devDependencies\": {\n    \"drill\": \"3\"\n  }\n}\n");
  TreeFiles limited = files;
  limited.push_back({"packages/probe/package.json",
                     "{\"name\": \"probe\", \"os\": [\"linux\", \"darwin\"], \"cpu\": [\"!arm\"]}\n"});
  limited.push_back({"packages/chart/plain.js", "export const a = 1;\n"});
  EXPECT_THAT(told(planned(limited, {{"packages/chart/plain.js", "packages/probe/plain.js"}})),
              Contains("unit-change packages/chart/plain.js leaves package @tide/chart for probe, which is "
                       "only installed on linux, darwin, !arm"));
  // A package that moves as a whole takes its manifest along.
  EXPECT_TRUE(planned(files, {{"packages/chart", "packages/charts"}}).verified);
}

// An option for a folder that is not there leads nowhere, and is left.
TEST(WebPlans, scripts_with_words_that_lead_nowhere) {
  EXPECT_THAT(edits(planned({{"package.json", "{ \"scripts\": { \"x\": \"= -IQc=} -Igone level.js\" } }\n"},
                             {"level.js", ""}},
                            {{"level.js", "src/level.js"}})),
              ElementsAre("package.json: level.js -> src/level.js ?"));
}

TEST(WebPlans, sources_that_no_settings_would_take_in_any_more) {
  auto board = [](const std::string& settings, const std::string& main) {
    return TreeFiles{{"board/tsconfig.json", settings},
                     {"board/src/main.ts", main},
                     {"board/src/worker.ts", "export const level = 1;\n"},
                     {"other/a.txt", ""}};
  };
  const TreeMoves away = {{"board/src/worker.ts", "other/worker.ts"}};
  for (const char* settings :
       {"{}", "{ \"include\": [\"./**/*.ts\"] } // all\n", "{ \"exclude\": [\"dist\"] }"})
    EXPECT_THAT(reasons(planned(board(settings, ""), away)), ElementsAre("not-compiled board/src/worker.ts"))
        << settings;
  EXPECT_THAT(edits(planned(board("{}", "import { level } from './worker';\n"), away)),
              ElementsAre("board/src/main.ts: ./worker -> ../../other/worker"))
      << "who imports it has it compiled";
  EXPECT_THAT(edits(planned(board("{}", ""), {{"board/src/worker.ts", "board/lib/worker.ts"}})), IsEmpty());
  EXPECT_THAT(edits(planned(board("{ \"exclude\": [\"src\"] }", ""), away)), IsEmpty()) << "it never was";
  TreeFiles two = board("{}", "");
  two.emplace_back("other/tsconfig.json", "{}");
  EXPECT_THAT(edits(planned(two, away)), IsEmpty()) << "another project takes it in";
}

}  // namespace
}  // namespace yc::test
