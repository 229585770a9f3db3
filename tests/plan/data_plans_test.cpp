// Plans for trees of data, property lists and boundaries, a table: what moves, and every edit that follows.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

TEST(DataPlans, values_in_every_language) {
  const TreeMoves move = {{"art/pole.png", "assets/art/pole.png"}};
  auto with = [](const std::string& name, const std::string& text) {
    return TreeFiles{{name, text}, {"art/pole.png", ""}, {"art/buoy.png", ""}};
  };
  expect_edits({
      {"JSON",
       with("stations.json",
            "{\"icon\": \"art/pole.png\", \"other\": \"art/buoy.png\", \"text\": \"art\"}\n"),
       move,
       {"stations.json: art/pole.png -> assets/art/pole.png ?"}},
      {"JSON with an escape",
       with("stations.json", "{\"icon\": \"art\\/pole.png\"}\n"),
       move,
       {"stations.json: art\\/pole.png -> assets/art/pole.png ?"}},
      {"YAML, plain and in quotes",
       with("stations.yaml",
            "icon: art/pole.png # the icon\nlist:\n  - 'art/pole.png'\n  - \"art/pole.png\"\n"),
       move,
       {"stations.yaml: art/pole.png -> assets/art/pole.png ?",
        "stations.yaml: art/pole.png -> assets/art/pole.png ?",
        "stations.yaml: art/pole.png -> assets/art/pole.png ?"}},
      {"TOML",
       with("stations.toml", "[pole]\nicon = 'art/pole.png'\n"),
       move,
       {"stations.toml: art/pole.png -> assets/art/pole.png ?"}},
      {"INI",
       with("stations.ini", "[pole]\nicon = art/pole.png\n"),
       move,
       {"stations.ini: art/pole.png -> assets/art/pole.png ?"}},
      {"XML",
       with("stations.xml", "<s><pole icon=\"art/pole.png\"/><p>art/pole.png</p></s>\n"),
       move,
       {"stations.xml: art/pole.png -> assets/art/pole.png ?",
        "stations.xml: art/pole.png -> assets/art/pole.png ?"}},
      {"CSV",
       with("stations.csv", "name,icon\npole,art/pole.png\nbuoy,\"art/buoy.png\"\n"),
       move,
       {"stations.csv: art/pole.png -> assets/art/pole.png ?"}},
      {"an address on another host, a route and a message",
       with("stations.json",
            "{\"a\": \"https://tide.example/art/pole.png\", \"b\": \"/api/art\", \"c\": \"see art/pole.png "
            "there\"}\n"),
       move,
       {}},
  });
}

TEST(DataPlans, known_kinds) {
  expect_edits({
      {"a map of tiles and its set",
       {{"maps/estuary.tmx", "<map><tileset firstgid=\"1\" source=\"../sets/sea.tsx\"/></map>\n"},
        {"sets/sea.tsx", "<?xml version=\"1.0\"?>\n<tileset><image source=\"../art/sea.png\"/></tileset>\n"},
        {"art/sea.png", ""}},
       {{"art/sea.png", "assets/sea.png"}, {"sets/sea.tsx", "assets/sets/sea.tsx"}},
       {"maps/estuary.tmx: ../sets/sea.tsx -> ../assets/sets/sea.tsx",
        "sets/sea.tsx: ../art/sea.png -> ../sea.png"}},
      {"a scene, its materials and their pictures",
       {{"models/pole.obj", "mtllib pole.mtl\nusemtl wood\n"},
        {"models/pole.mtl", "newmtl wood\nmap_Kd wood.png\n"},
        {"models/wood.png", ""}},
       {{"models/pole.mtl", "materials/pole.mtl"}, {"models/wood.png", "art/wood.png"}},
       {"models/pole.mtl: wood.png -> ../art/wood.png",
        "models/pole.obj: pole.mtl -> ../materials/pole.mtl"}},
      {"a sidecar goes along, with its identifier",
       {{"art/pole.png", ""},
        {"art/pole.png.meta", "guid: 0123456789abcdef0123456789abcdef\n"},
        {"art/x.png", ""}},
       {{"art/pole.png", "icons/pole.png"}},
       {}},
  });
}

TEST(DataPlans, styles_and_pages) {
  expect_edits({
      {"partials, urls and what a page links",
       {{"web/page.html",
         "<link rel=\"stylesheet\" href=\"css/site.css\"><img srcset=\"art/a.png 1x, art/b.png 2x\" "
         "style=\"background: url(art/a.png)\">\n"},
        {"web/css/site.css", "@import \"base.css\";\nbody { background: url( '../art/a.png?v=1#x' ) }\n"},
        {"web/css/base.css", ""},
        {"web/art/a.png", ""},
        {"web/art/b.png", ""}},
       {{"web/css", "web/styles"}, {"web/art/a.png", "web/pictures/a.png"}},
       {"web/css/site.css: ../art/a.png -> ../pictures/a.png",
        "web/page.html: css/site.css -> styles/site.css", "web/page.html: art/a.png -> pictures/a.png",
        "web/page.html: art/a.png -> pictures/a.png"}},
      {"modules of a style language",
       {{"scss/main.scss", "@use \"parts/buttons\" as b;\n@forward 'parts/colours' show $sea;\n"},
        {"scss/parts/_buttons.scss", "@use \"colours\";\n"},
        {"scss/parts/_colours.scss", "$sea: blue;\n"}},
       {{"scss/parts/_colours.scss", "scss/base/_colours.scss"}},
       {"scss/main.scss: parts/colours -> base/colours",
        "scss/parts/_buttons.scss: colours -> ../base/colours"}},
  });
}

TEST(DataPlans, boundaries) {
  expect_edits({
      {"an assembly that names another, and one that joins by a file",
       {{"Game/Game.asmdef", "{ \"name\": \"Game\", \"references\": [ \"Tide\" ] }\n"},
        {"Game/Main.cs", "using Tide;\nclass Main { Level level; }\n"},
        {"Tide/Tide.asmdef", "{ \"name\": \"Tide\" }\n"},
        {"Tide/Level.cs", "namespace Tide { public class Level {} }\n"},
        {"More/More.asmref", "{ \"reference\": \"Tide\" }\n"},
        {"More/Extra.cs", "namespace Tide { public class Extra {} }\n"}},
       {{"Tide", "Libraries/Tide"}, {"More", "Libraries/More"}},
       {}},
  });
}

// What has no definition above it is an assembly as well: it refers to all others, and none of them to it.
TEST(DataPlans, sources_without_a_definition_are_a_unit) {
  const TreeFiles files = {{"Core/Core.asmdef", "{ \"name\": \"Core\" }\n"},
                           {"Core/Gauge.cs", "namespace Core { public class Gauge {} }\n"},
                           {"Net/Net.asmdef", "{ \"name\": \"Net\", \"references\": [ \"Core\" ] }\n"},
                           {"Net/Link.cs", "using Core;\nnamespace Net { public class Link { Gauge g; } }\n"},
                           {"Tools/Tools.asmdef", "{ \"name\": \"Tools\", \"references\": [] }\n"},
                           {"Loose/View.cs", "using Core;\nclass View { Gauge g; }\n"},
                           {"Loose/Page.cs", "class Page { View v; }\n"},
                           {"Loose/Plain.cs", "class Plain {}\n"}};
  // It joins one that does not refer to what it uses.
  Plan joins = planned(files, {{"Loose/View.cs", "Tools/View.cs"}});
  EXPECT_THAT(reasons(joins), testing::ElementsAre("unit-reference Tools/Tools.asmdef"));
  EXPECT_THAT(joins.blockers.at(0).reason, testing::HasSubstr("lacks a reference to Core"));
  PlanOptions options;
  options.link_units = true;
  Plan linked = planned(files, {{"Loose/View.cs", "Tools/View.cs"}}, options);
  EXPECT_TRUE(linked.verified);
  EXPECT_EQ(linked.edits.size(), 1U);
  // What it uses stays where none can refer to it.
  Plan strays = planned(files, {{"Loose/Page.cs", "Net/Page.cs"}}, options);
  EXPECT_THAT(reasons(strays), testing::ElementsAre("unit-reference Net/Net.asmdef"));
  EXPECT_THAT(strays.blockers.at(0).reason,
              testing::HasSubstr("uses View in Net/Page.cs, which would be in no assembly"));
  // What others use leaves for where none can refer to it.
  EXPECT_THAT(reasons(planned(files, {{"Core/Gauge.cs", "Loose/Gauge.cs"}})),
              testing::ElementsAre("unit-reference Net/Net.asmdef"));
  EXPECT_TRUE(planned(files, {{"Loose/Plain.cs", "Tools/Plain.cs"}}).verified);
}

}  // namespace
}  // namespace yc::test
