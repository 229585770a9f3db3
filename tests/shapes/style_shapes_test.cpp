// Shapes of stylesheets and pages as they are met in the wild: each is moved, compiled by Sass or Less, and
// taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const std::string kSass =
    "sass --no-source-map --load-path=core scss/:out/ && find out -name '*.css' | sort | xargs cat";

Files site() {
  return {{"package.json",
           "{\n  \"name\": \"site\",\n  \"scripts\": {\n    \"style\": \"sass --load-path=core "
           "scss/:public/css/\"\n  }\n}\n"},
          {"scss/main.scss",
           "@use \"parts/buttons\";\n@use 'parts';\n@use \"colors\" as c;\n$images: \"../images\";\n"
           ".a { color: c.$water; background: url(\"../images/tide.png?v=2\"); }\n"
           ".b { background: url(\"#{$images}/tide.png\"); }\n"},
          {"scss/parts/_buttons.scss", ".btn { color: red; }\n"},
          {"scss/parts/_index.scss", "@forward \"buttons\";\n"},
          {"core/_colors.scss", "$water: blue;\n"},
          {"public/index.html",
           "<link rel=\"stylesheet\" href=\"css/main.css\">\n<img src=\"images/tide.png\">\n"
           "<a href=\"about/\">about</a> <a href=\"gone.html\">gone</a>\n"},
          {"public/about/index.html", "<a href=\"../\">home</a><img src='/images/tide.png'>\n"},
          {"public/images/tide.png", "png"}};
}

void expect_lines(const Workspace& tree, const std::string& sheet, const std::vector<std::string>& lines,
                  const std::string& build) {
  expect_move_says(tree, sheet, lines, build);
}

TEST(StyleShapes, a_partial_keeps_its_name_without_mark_and_ending) {
  expect_lines(Workspace(site()), "scss/parts/_buttons.scss -> scss/controls/_push.scss\n",
               {"@use \"controls/push\";", "@forward \"../controls/push\";"}, kSass);
}

TEST(StyleShapes, a_sheet_that_a_bundler_puts_before_all_others) {
  Files files = site();
  files.push_back(
      {"vite.config.js",
       "module.exports = {\n  resolve: { alias: { '@': require('path').resolve(__dirname, 'scss') } },\n"
       "  css: { preprocessorOptions: { scss: { additionalData: '@use \"@/parts/buttons\" as b;' } } },\n"
       "};\n"});
  expect_lines(Workspace(files), "scss/parts/_buttons.scss -> scss/controls/_push.scss\n",
               {"additionalData: '@use \"@/controls/push\" as b;'"}, kSass);
}

TEST(StyleShapes, an_index_that_gets_a_name) {
  expect_lines(Workspace(site()), "scss/parts/_index.scss -> scss/parts/_all.scss\n", {"@use 'parts/all';"},
               "sass --no-source-map --load-path=core scss/main.scss | wc -c");
}

TEST(StyleShapes, a_load_path_follows_its_folder) {
  expect_lines(Workspace(site()), "core -> shared/sass\n", {"sass --load-path=shared/sass scss/"},
               "npm run --silent style -- --no-source-map && cat public/css/main.css");
}

TEST(StyleShapes, sources_and_what_is_made_of_them) {
  expect_lines(Workspace(site()), "scss -> styles\nscss/main.scss -> styles/site.scss\n",
               {"sass --load-path=core styles/:public/css/", "href=\"css/site.css\""},
               "npm run --silent style -- --no-source-map && cat $(sed -n 's/.*stylesheet\" "
               "href=\"\\(.*\\)\".*/public\\/\\1/p' "
               "public/index.html)");
}

TEST(StyleShapes, an_image_that_urls_variables_and_pages_name) {
  Workspace tree(site());
  Outcome moved = expect_move_keeps_build(tree, "public/images -> public/assets/img\n", "true");
  for (const char* line : {"$images: \"../assets/img\";", "url(\"../assets/img/tide.png?v=2\")",
                           "<img src=\"assets/img/tide.png\">", "<img src='/assets/img/tide.png'>"})
    EXPECT_NE(moved.out.find(line), std::string::npos) << line << "\n" << moved.told;
}

TEST(StyleShapes, a_page_keeps_its_links_at_another_depth) {
  Workspace tree(site());
  Outcome moved = expect_move_keeps_build(tree, "public/about/index.html -> public/info.html\n", "true");
  for (const char* line :
       {"<a href=\"./\">home</a>", "<a href=\"info.html\">about</a> <a href=\"gone.html\">gone</a>"})
    EXPECT_NE(moved.out.find(line), std::string::npos) << line << "\n" << moved.told;
}

TEST(StyleShapes, a_url_that_cannot_be_known_is_said) {
  Files files = site();
  files[1].second += ".c { background: url(\"#{f($x)}/pole.png\"); }\n";
  files.push_back({"public/images/pole.png", "png"});
  expect_refusal(Workspace(files), "public/images/pole.png -> public/pole.png\n",
                 {"scss/main.scss:7", "only known when it runs"});
}

TEST(StyleShapes, less_with_a_reference_and_its_ending_left_out) {
  Workspace tree(Files{
      {"less/main.less", "@import (reference) \"parts/mixins\";\n@import 'parts/base.less';\n.a { .m(); }\n"},
      {"less/parts/mixins.less", ".m() { color: red; }\n"},
      {"less/parts/base.less", "b { c: d; }\n"}});
  expect_lines(tree,
               "less/parts/mixins.less -> less/tools/mixins.less\nless/parts/base.less -> less/base.less\n",
               {"@import (reference) \"tools/mixins\";", "@import 'base.less';"}, "lessc less/main.less");
}

TEST(StyleShapes, a_component_with_a_script_and_a_style) {
  Workspace tree(Files{{"src/Tide.vue",
                        "<template><img src=\"./tide.png\"></template>\n<script setup lang=\"ts\">\n"
                        "import { level } from './level';\n</script>\n<style lang=\"scss\" scoped>\n"
                        "@use './mixins';\n.a { background: url(./tide.png); }\n</style>\n"},
                       {"src/main.ts", "import Tide from './Tide.vue';\nconsole.log(Tide);\n"},
                       {"src/level.ts", "export const level = 1;\n"},
                       {"src/_mixins.scss", ""},
                       {"src/tide.png", "png"}});
  Outcome moved = expect_move_keeps_build(
      tree, "src/Tide.vue -> src/parts/tide/Tide.vue\nsrc/tide.png -> src/parts/tide/tide.png\n", "true");
  for (const char* line : {"from './parts/tide/Tide.vue'", "from '../../level'", "@use '../../mixins'"})
    EXPECT_NE(moved.out.find(line), std::string::npos) << line << "\n" << moved.told;
  EXPECT_EQ(moved.out.find("url("), std::string::npos) << moved.told;
}

TEST(StyleShapes, an_alias_in_the_template_of_a_component) {
  Workspace tree(Files{
      {"tsconfig.json",
       R"({"compilerOptions": {"paths": {"@/*": ["./src/*"]}}, "include": ["src/**/*.ts", "src/**/*.vue"]})"},
      {"src/Tide.vue", "<template><img src=\"@/images/tide.png\"></template>\n"},
      {"src/main.ts", "import Tide from '@/Tide.vue';\nconsole.log(Tide);\n"},
      {"src/images/tide.png", "png"}});
  Outcome moved = expect_move_keeps_build(tree, "src/images/tide.png -> src/media/tide.png\n", "true");
  EXPECT_NE(moved.out.find("<img src=\"@/media/tide.png\">"), std::string::npos) << moved.told;
  Outcome whole = expect_move_keeps_build(tree, "src -> app\n", "true");
  EXPECT_NE(whole.out.find("\"include\": [\"app/**/*.ts\", \"app/**/*.vue\"]"), std::string::npos)
      << whole.told;
  EXPECT_EQ(whole.out.find("<img"), std::string::npos) << whole.told;
}

TEST(StyleShapes, the_indented_syntax) {
  Workspace tree(Files{{"sass/main.sass", "@use 'parts/a'\n@import parts/b\n.c\n  d: e\n"},
                       {"sass/parts/_a.sass", ".a\n  b: c\n"},
                       {"sass/parts/_b.sass", ".b\n  b: c\n"}});
  expect_lines(tree, "sass/parts -> sass/pieces\n", {"@use 'pieces/a'", "@import pieces/b"},
               "sass --quiet --no-source-map sass/main.sass");
}

TEST(StyleShapes, a_stylesheet_is_promoted_to_a_folder_and_users_stay) {
  Workspace tree(site());
  Outcome before = tree.shell(kSass + "; rm -r out");
  Outcome moved =
      tree.run({"move", "scss/parts/_buttons.scss", "scss/parts/buttons/_buttons.scss", "--forward"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(tree.read("scss/parts/buttons/_index.scss").find("@forward \"buttons\""), std::string::npos);
  EXPECT_EQ(tree.read("scss/parts/_index.scss"), "@forward \"buttons\";\n");
  EXPECT_EQ(tree.shell(kSass + "; rm -r out").out, before.out);
}

}  // namespace
}  // namespace yc::test
