// Assets that code and data name by path: each tree is moved, its program run, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const std::string kRun = "python3 -B $(find . -name show.py)";

void expect_lines(const Files& files, const std::string& sheet, const std::vector<std::string>& lines,
                  const std::string& build = kRun) {
  expect_move_says(Workspace(files), sheet, lines, build);
}

Files station() {
  return {{"show.py",
           "import os\nfrom pathlib import Path\nimport places\nfrom places import DATA, ICONS\n\n\ndef "
           "icon(name):\n    "
           "return ICONS / f\"{name}.png\"\n\n\nprint(open(os.path.join(DATA, \"tables\", "
           "\"high.csv\")).read())\n"
           "print(open(places.DATA + \"/low.csv\").read(), icon(\"pole\").read_text())\n"
           "print((Path(__file__).parent / \"data/tables/high.csv\").read_text())\n"},
          {"places.py",
           "import os\nfrom pathlib import Path\n\nHERE = os.path.dirname(os.path.abspath(__file__))\nDATA = "
           "os.path.join(HERE, \"data\")\nICONS = Path(__file__).resolve().parent / \"icons\"\n"},
          {"data/tables/high.csv", "high\n"},
          {"data/low.csv", "low\n"},
          {"icons/pole.png", "png\n"}};
}

TEST(AssetShapes, whole_folders_are_edited_where_they_are_named) {
  expect_lines(station(), "data -> assets/data\nicons -> assets/icons\n",
               {"DATA = os.path.join(HERE, \"assets/data\")", "parent / \"assets/icons\"",
                "\"assets/data/tables/high.csv\"", "3 edits in 2 files"});
}

// Constants that are made of others, and brackets within brackets, are looked at once.
TEST(AssetShapes, tangled_expressions_take_no_time) {
  std::string tangled = "import os\nA0 = ('icons/pole.png')\n";
  for (int i = 1; i < 60; ++i) {
    std::string last = "A" + std::to_string(i - 1);
    tangled += "A" + std::to_string(i) + " = f(" + last + ", " + last + ", [" + last + " + " + last + "], {" +
               last + ": (" + last + ", " + last + ")})\n";
  }
  tangled += "B = " + std::string(60, '(') + "'icons/pole.png'" + [] {
    std::string out;
    for (int i = 0; i < 60; ++i) out += ", A59)";
    return out;
  }() + "\nC = D\nD = C + 'x'\n";
  Workspace tree(Files{{"show.py", tangled}, {"icons/pole.png", "p"}});
  Outcome moved = tree.shell("timeout 20 " + std::string(YELLOW_COMPASS_PROGRAM) + " -v move icons signs");
  EXPECT_EQ(moved.status, 0) << moved.told.substr(0, 2000);
  EXPECT_TRUE(tree.read("show.py").find("'icons/") == std::string::npos);
}

TEST(AssetShapes, one_file_is_edited_where_it_is_named) {
  expect_lines(station(), "data/tables/high.csv -> data/tides/highest.csv\n",
               {"os.path.join(DATA, \"tides\", \"highest.csv\")", "\"data/tides/highest.csv\""});
}

TEST(AssetShapes, a_program_that_goes_deeper_still_finds_its_data) {
  expect_lines(station(), "show.py -> app/bin/show.py\nplaces.py -> app/bin/places.py\n",
               {"os.path.join(HERE, \"../../data\")", "\"../../data/tables/high.csv\""});
}

TEST(AssetShapes, a_name_that_is_put_together_could_be_the_one_that_moves) {
  expect_refusal(Workspace(station()), "icons/pole.png -> icons/mark.png\n",
                 {"show.py:8:", "\"icons/….png\""});
}

TEST(AssetShapes, folders_that_a_function_keeps_or_is_handed) {
  Files files = {{"show.py",
                  "import os\n\n\ndef keys():\n    here = os.path.dirname(__file__)\n    return "
                  "[os.path.join(here, \"test\", "
                  "\"a.key\")]\n\n\ndef key(root):\n    return os.path.join(root, \"test\", \"b.key\")\n\n\n"
                  "print([open(k).read() for k in keys()], open(key(os.path.dirname(__file__))).read())\n"},
                 {"test/a.key", "a"},
                 {"test/b.key", "b"}};
  expect_lines(files, "test/a.key -> test/data/a.key\ntest/b.key -> keys/b.key\n",
               {"join(here, \"test/data\", \"a.key\")", "join(root, \"keys\", \"b.key\")"});
  expect_lines(files, "test -> data/test\n", {"join(here, \"data/test\", \"a.key\")", "(likely)"});
}

TEST(AssetShapes, projects_of_editors_in_xml) {
  Files files = {{"scripts/gauge.cbp", "<Project><Unit filename=\"../src/tide.c\" /></Project>\n"},
                 {"scripts/gauge.project", "<Project><File Name=\"../src/tide.c\"/></Project>\n"},
                 {"show.py", "\n"},
                 {"src/tide.c", "\n"}};
  expect_lines(files, "src/tide.c -> lib/tide.c\n", {"filename=\"../lib/tide.c\"", "Name=\"../lib/tide.c\""});
}

TEST(AssetShapes, addresses_of_files) {
  Files files = {
      {"show.py",
       "import os\nfrom urllib.request import urlopen\nHERE = "
       "os.path.dirname(os.path.abspath(__file__))\nprint(urlopen(f\"file://{HERE}/tides/a.txt\").read(), "
       "urlopen(\"file://\" + HERE + \"/tides/b.txt\").read())\n"},
      {"tides/a.txt", "a"},
      {"tides/b.txt", "b"}};
  expect_lines(files, "tides/a.txt -> tides/day/a.txt\n", {"file://{HERE}/tides/day/a.txt"});
  expect_lines(files, "tides -> tables\n", {"file://{HERE}/tables/a.txt", "HERE + \"/tables/b.txt\""});
}

TEST(AssetShapes, functions_that_only_put_a_path_together) {
  Files files = {{"show.py",
                  "import os\nfrom places import below\n\n\ndef beside(*names):\n    return "
                  "os.path.join(os.path.dirname(__file__), *names)\n\n\n"
                  "print(os.listdir(beside(\"static\")), open(beside(\"marks\", \"pole.txt\")).read(), "
                  "open(below(\"tide.txt\")).read())\n"},
                 {"places.py",
                  "from pathlib import Path\n\n\ndef below(name, folder=None):\n    \"\"\"In the "
                  "data.\"\"\"\n    here = "
                  "Path(__file__).parent\n    return here / \"data\" / name\n"},
                 {"static/a.txt", "a"},
                 {"marks/pole.txt", "pole"},
                 {"data/tide.txt", "tide"}};
  expect_lines(
      files,
      "static -> shown/static\nmarks/pole.txt -> poles/pole.txt\ndata/tide.txt -> data/tides/tide.txt\n",
      {"beside(\"shown/static\")", "beside(\"poles\", \"pole.txt\")", "\"data/tides\" / name"});
}

TEST(AssetShapes, data_of_a_package) {
  Files files = {{"show.py", "import pole.app\n"},
                 {"pole/__init__.py", ""},
                 {"pole/app.py",
                  "import pkgutil\nfrom importlib import resources\nprint(pkgutil.get_data(\"pole\", "
                  "\"tables/high.csv\"))\n"
                  "print((resources.files(\"pole\") / \"tables\" / \"high.csv\").read_text())\n"},
                 {"pole/tables/high.csv", "high\n"}};
  expect_lines(
      files, "pole/tables -> pole/data/tides\n",
      {"get_data(\"pole\", \"data/tides/high.csv\")", "files(\"pole\") / \"data/tides\" / \"high.csv\""});
  expect_lines(files, "pole -> gauge\n",
               {"get_data(\"gauge\", \"tables/high.csv\")", "resources.files(\"gauge\")"});
}

TEST(AssetShapes, a_string_that_comes_to_lead_somewhere_stands_in_nobodys_way) {
  Files files = {
      {"show.py", "kind = 'text/plain'\nprint(kind.startswith('text/'), 'text/' + kind, 'notes/pole.txt')\n"},
      {"kinds.json", "{\"kind\": \"text/pole.txt\", \"other\": \"notes/mill.txt\"}\n"},
      {"notes/mill.txt", "m"},
      {"pole.txt", "p"}};
  expect_lines(files, "pole.txt -> text/pole.txt\n", {"0 edits"});
}

TEST(AssetShapes, what_only_looks_like_a_path_is_left_alone) {
  Files files = {
      {"show.py",
       "print(\"https://tides.example/icons/pole.png\", \"icons/pole.png is at the mouth\", {\"icons\": 1}, "
       "\"icons\",\n"
       "      \"/icons/pole.png\", \"icons/pole\", b\"icons/pole.png\", \"see icons/pole.png\")\n"},
      {"stations.json",
       "{\"page\": \"https://tides.example/icons/pole.png\", \"icons\": 3, \"route\": \"/icons/pole.png\", "
       "\"text\": \"icons/pole.png, see there\"}\n"},
      {"icons/pole.png", "png\n"}};
  Workspace tree(files);
  Outcome moved = tree.run({"-v", "move", "icons", "assets/icons"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(moved.out.find("0 edits"), std::string::npos) << moved.told;
}

const char* const kRead =
    "import json, os, sys\nbase = os.environ.get('BASE', '.')\nfor name in "
    "json.load(open('list.json'))['icons']:\n    "
    "print(open(os.path.join(base, name)).read())\n";

TEST(AssetShapes, the_base_of_a_manifest_is_learned_from_its_entries) {
  Files files = {
      {"show.py", kRead},
      {"list.json", "{ \"icons\": [\"marks/pole.png\", \"marks/buoy.png\",\n    \"lamps/red.png\"] }\n"},
      {"content/marks/pole.png", "p"},
      {"content/marks/buoy.png", "b"},
      {"content/lamps/red.png", "r"}};
  expect_lines(files, "content/lamps/red.png -> content/lights/red.png\n", {"\"lights/red.png\""},
               "BASE=content python3 show.py");
  Outcome refs = Workspace(files).run({"refs", "content/marks/pole.png"});
  EXPECT_NE(refs.out.find("list.json:1:14  listed marks/pole.png (likely)"), std::string::npos) << refs.told;
}

TEST(AssetShapes, one_value_changes_and_no_other_byte) {
  Files files = {
      {"a.yaml", "# é\r\nicon:   'icons/pole.png'   # keep\r\nall: [icons/pole.png, \"icons/x.png\"]\r\n"},
      {"b.toml", "[icon]\npole = 'icons/pole.png' # keep\n"},
      {"c.ini", "[icon]\npole=icons/pole.png ; keep\n"},
      {"d.csv", "name,icon\npole,\"icons/pole.png\"\n"},
      {"e.xml", "<a><b  icon = 'icons/pole.png'/> <c>icons/pole.png</c></a>\n"},
      {"f.json", "{\"icon\" : \"icons\\/pole.png\", \"x\": \"icons/pole.png\"}\n"},
      {"icons/pole.png", "p"},
      {"icons/x.png", "x"}};
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "icons/pole.png", "marks/mast.png"}).status, 0);
  EXPECT_EQ(tree.read("a.yaml"),
            "# é\r\nicon:   'marks/mast.png'   # keep\r\nall: [marks/mast.png, \"icons/x.png\"]\r\n");
  EXPECT_EQ(tree.read("b.toml"), "[icon]\npole = 'marks/mast.png' # keep\n");
  EXPECT_EQ(tree.read("c.ini"), "[icon]\npole=marks/mast.png ; keep\n");
  EXPECT_EQ(tree.read("d.csv"), "name,icon\npole,\"marks/mast.png\"\n");
  EXPECT_EQ(tree.read("e.xml"), "<a><b  icon = 'marks/mast.png'/> <c>marks/mast.png</c></a>\n");
  EXPECT_EQ(tree.read("f.json"), "{\"icon\" : \"marks/mast.png\", \"x\": \"marks/mast.png\"}\n");
}

TEST(AssetShapes, tile_maps_materials_and_scenes) {
  Files files = {
      {"maps/estuary.tmx", "<?xml version=\"1.0\"?>\n<map><tileset source=\"../tiles/water.tsx\"/></map>\n"},
      {"tiles/water.tsx", "<?xml version=\"1.0\"?>\n<tileset><image source=\"img/water.png\"/></tileset>\n"},
      {"tiles/img/water.png", "w"},
      {"models/buoy.mtl", "newmtl hull\nmap_Kd skins/hull.png\n"},
      {"models/skins/hull.png", "h"},
      {"project.godot", "config_version=5\n"},
      {"scenes/pole.tscn", "[ext_resource path=\"res://models/skins/hull.png\" id=\"1\"]\n"}};
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "tiles/img/water.png", "models/skins", "assets/"}).status, 0);
  EXPECT_NE(tree.read("tiles/water.tsx").find("source=\"../assets/water.png\""), std::string::npos);
  EXPECT_NE(tree.read("models/buoy.mtl").find("map_Kd ../assets/skins/hull.png"), std::string::npos);
  EXPECT_NE(tree.read("scenes/pole.tscn").find("\"res://assets/skins/hull.png\" id"), std::string::npos);
  ASSERT_EQ(tree.run({"move", "maps", "tiles", "world/"}).status, 0);
  EXPECT_NE(tree.read("world/maps/estuary.tmx").find("source=\"../tiles/water.tsx\""), std::string::npos);
  EXPECT_NE(tree.read("world/tiles/water.tsx").find("source=\"../../assets/water.png\""), std::string::npos);
}

TEST(AssetShapes, folders_with_a_role_in_settings) {
  Files files = {
      {"viewer.json", "{\"images_dir\": \"images\", \"title\": \"images\", \"fonts\": \"fonts\"}\n"},
      {"images/a.png", "a"},
      {"fonts/a.ttf", "a"}};
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "images", "fonts", "assets/"}).status, 0);
  EXPECT_EQ(tree.read("viewer.json"),
            "{\"images_dir\": \"assets/images\", \"title\": \"images\", \"fonts\": \"assets/fonts\"}\n");
}

TEST(AssetShapes, sidecars_travel_and_keep_what_identifies_them) {
  Files files = {{"icons/pole.png", "p"},
                 {"icons/pole.png.meta", "guid: 12ab\n"},
                 {"icons/pole.png.license", "free"},
                 {"icons/pole@2x.png", "pp"},
                 {"icons/pole.de.png", "d"},
                 {"icons/pole.old.png", "o"},
                 {"icons.meta", "guid: 34cd\n"},
                 {"icons/pole.notes", "n"},
                 {"yellow-compass.toml", "sidecars = [\"{stem}.notes\"]\n"}};
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "icons/pole.png", "marks/mast.png"}).status, 0);
  for (const char* name :
       {"mast.png", "mast.png.meta", "mast.png.license", "mast@2x.png", "mast.de.png", "mast.notes"})
    EXPECT_TRUE(tree.exists(std::string("marks/") + name)) << name;
  EXPECT_EQ(tree.read("marks/mast.png.meta"), "guid: 12ab\n");
  EXPECT_TRUE(tree.exists("icons/pole.old.png"));
  ASSERT_EQ(tree.run({"move", "icons", "signs"}).status, 0);
  EXPECT_TRUE(tree.exists("signs.meta"));
}

TEST(AssetShapes, stand_ins_and_snapshots_of_tests_go_along) {
  Files files = {{"src/gauge.ts", "export const gauge = 1;\n"},
                 {"src/__mocks__/gauge.ts", "export const gauge = 2;\n"},
                 {"src/__mocks__/pole.ts", "export const pole = 2;\n"},
                 {"src/gauge.test.ts", "jest.mock(\"./gauge\");\n"},
                 {"src/__snapshots__/gauge.test.ts.snap", "// one\n"}};
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "src/gauge.ts", "src/core/level.ts"}).status, 0);
  EXPECT_EQ(tree.read("src/core/__mocks__/level.ts"), "export const gauge = 2;\n");
  EXPECT_TRUE(tree.exists("src/__mocks__/pole.ts"));
  ASSERT_EQ(tree.run({"move", "src/gauge.test.ts", "tests/"}).status, 0);
  EXPECT_EQ(tree.read("tests/__snapshots__/gauge.test.ts.snap"), "// one\n");
  EXPECT_EQ(tree.read("tests/gauge.test.ts"), "jest.mock(\"../src/core/level\");\n");
}

TEST(AssetShapes, folders_that_patterns_in_settings_begin_with) {
  Files files = {{".lintrc.json",
                  "{\"overrides\": [{\"files\": [\"src/old/**/*.js\", \"!src/old/keep/*\", \"a * b\"]}]}\n"},
                 {"hooks.yaml", "files: ^src/old/\nexclude: ^src/.*\\.md$\nnone: ^gone/.*\n"},
                 {"src/old/a.js", ""},
                 {"src/old/keep/b.js", ""}};
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "src/old", "lib/past"}).status, 0);
  EXPECT_EQ(tree.read(".lintrc.json"),
            "{\"overrides\": [{\"files\": [\"lib/past/**/*.js\", \"!lib/past/keep/*\", \"a * b\"]}]}\n");
  EXPECT_EQ(tree.read("hooks.yaml"), "files: ^lib/past/\nexclude: ^src/.*\\.md$\nnone: ^gone/.*\n");
}

TEST(AssetShapes, links_of_documents) {
  Files files = {{"README.md",
                  "See [the pole](docs/pole.md#top \"x\"), ![](icons/pole.png) and "
                  "`icons/pole.png`.\n\n```\n[x](icons/pole.png)\n"
                  "```\n[ref]: docs/pole.md\n<img "
                  "src=\"icons/pole.png\">\n[far](https://tides.example/icons/pole.png) [gone](no.md)\n"},
                 {"docs/pole.md", "![](../icons/pole.png) [up](../README.md)\n"},
                 {"docs/index.rst",
                  ".. toctree::\n   :maxdepth: 1\n\n   level\n\n.. image:: ../icons/pole.png\n\n:doc:`level` "
                  ":download:`icon <../icons/pole.png>`\n"},
                 {"docs/level.rst", "Level\n"},
                 {"icons/pole.png", "p"}};
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "icons/pole.png", "docs/pole.md", "docs/level.rst", "guide/"}).status, 0);
  EXPECT_EQ(tree.read("README.md"),
            "See [the pole](guide/pole.md#top \"x\"), ![](guide/pole.png) and "
            "`icons/pole.png`.\n\n```\n[x](icons/pole.png)\n"
            "```\n[ref]: guide/pole.md\n<img "
            "src=\"guide/pole.png\">\n[far](https://tides.example/icons/pole.png) [gone](no.md)\n");
  EXPECT_EQ(tree.read("guide/pole.md"), "![](pole.png) [up](../README.md)\n");
  EXPECT_EQ(tree.read("docs/index.rst"),
            ".. toctree::\n   :maxdepth: 1\n\n   ../guide/level\n\n.. image:: "
            "../guide/pole.png\n\n:doc:`../guide/level` "
            ":download:`icon <../guide/pole.png>`\n");
}

TEST(AssetShapes, mentions_are_rewritten_on_request) {
  Files files = {{"notes.txt", "The mark icons/pole.png, not old/icons/pole.png or icons/pole.png.bak.\n"},
                 {"show.py", "# draws icons/pole.png\nprint(1)\n"},
                 {"icons/pole.png", "p"}};
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "icons/pole.png", "marks/mast.png", "--mentions"}).status, 0);
  EXPECT_EQ(tree.read("notes.txt"),
            "The mark marks/mast.png, not old/icons/pole.png or icons/pole.png.bak.\n");
  EXPECT_EQ(tree.read("show.py"), "# draws marks/mast.png\nprint(1)\n");
}

TEST(AssetShapes, a_constant_takes_the_folder_out_of_the_calls) {
  Files files = {{"show.py",
                  "\"\"\"Shows icons.\"\"\"\nimport os\n\nHERE = os.path.dirname(__file__)\nname = 'pole'\n"
                  "print(open('icons/pole.png').read(), open(f'icons/{name}.png').read())\n"
                  "print(open(os.path.join(HERE, 'icons/pole.png')).read(), 'icons')\n"},
                 {"icons/pole.png", "p"}};
  Workspace tree(files);
  std::string before = tree.shell(kRun).out;
  Outcome done = tree.run({"restyle", "--asset-root", "ICONS=icons"});
  ASSERT_EQ(done.status, 0) << done.told;
  EXPECT_NE(tree.read("show.py").find("import os\n\nICONS = 'icons/'\n"), std::string::npos);
  EXPECT_NE(tree.read("show.py").find("open(ICONS + 'pole.png').read(), open(ICONS + f'{name}.png')"),
            std::string::npos);
  EXPECT_NE(tree.read("show.py").find("os.path.join(HERE, ICONS + 'pole.png')).read(), 'icons')"),
            std::string::npos);
  EXPECT_EQ(tree.shell(kRun).out, before);
  // From now on the folder is named once.
  Outcome moved = tree.run({"move", "icons", "assets/icons"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(tree.read("show.py").find("ICONS = 'assets/icons/'"), std::string::npos);
  EXPECT_EQ(tree.shell(kRun).out, before);
}

// The same in languages that are compiled, which show each file that they read when they run.
TEST(AssetShapes, a_constant_in_compiled_programs) {
  Files files = {
      {"src/show.c",
       "#include <stdio.h>\n#include \"show.h\"\n\nint main(void) {\n  show(\"assets/tides.csv\");\n  "
       "show(\"assets/icons/pole.png\");\n  return 0;\n}\n"},
      {"src/show.h",
       "static void show(const char* path) {\n  FILE* in = fopen(path, \"r\");\n  int c;\n  while (in && (c "
       "= "
       "fgetc(in)) != EOF) putchar(c);\n  if (!in) printf(\"no %s\", path);\n}\n"},
      {"src/show.cpp",
       "#include <fstream>\n#include <iostream>\n\nint main() {\n  for (std::string path : "
       "{std::string(\"assets/\") "
       "+ \"tides.csv\", std::string(\"assets/icons/pole.png\")})\n    std::cout << "
       "std::ifstream(path).rdbuf();\n}\n"},
      {"web/show.js",
       "'use strict';\nconst fs = require('fs');\n\nconst kinds = "
       "['pole'];\nconsole.log(String(fs.readFileSync("
       "'assets/tides.csv')), ...kinds.map((kind) => "
       "String(fs.readFileSync(`assets/icons/${kind}.png`))));\n"},
      {"office/Show.cs",
       "using System;\nusing System.IO;\n\nclass Show {\n  const string Tides = \"assets/tides.csv\";\n  "
       "static void "
       "Main() {\n    Console.WriteLine(File.ReadAllText(Tides) + "
       "File.ReadAllText(\"assets/icons/pole.png\"));\n  "
       "}\n}\n"},
      {"assets/tides.csv", "6:02,high\n"},
      {"assets/icons/pole.png", "p\n"}};
  Workspace tree(files);
  const std::string run =
      "rm -rf /tmp/$$; mkdir /tmp/$$ && gcc src/show.c -o /tmp/$$/c && g++ -std=c++17 src/show.cpp -o "
      "/tmp/$$/cpp && "
      "mcs -out:/tmp/$$/show.exe office/Show.cs && /tmp/$$/c && /tmp/$$/cpp && node web/show.js && mono "
      "/tmp/$$/show.exe && rm -rf /tmp/$$";
  Outcome before = tree.shell(run);
  ASSERT_EQ(before.status, 0) << before.told;
  Outcome done = tree.run({"restyle", "--asset-root", "ASSETS=assets"});
  ASSERT_EQ(done.status, 0) << done.told;
  EXPECT_NE(tree.read("src/show.c").find("#define ASSETS \"assets/\"\n"), std::string::npos);
  EXPECT_NE(tree.read("src/show.c").find("show(ASSETS \"icons/pole.png\")"), std::string::npos);
  EXPECT_NE(tree.read("web/show.js").find("const ASSETS = 'assets/';\n"), std::string::npos);
  EXPECT_NE(tree.read("office/Show.cs").find("Tides = ASSETS + \"tides.csv\";"), std::string::npos);
  EXPECT_EQ(tree.shell(run).out, before.out);
  ASSERT_EQ(tree.run({"move", "assets/icons", "assets/signs"}).status, 0);
  EXPECT_EQ(tree.shell(run).out, before.out);
  ASSERT_EQ(tree.run({"move", "assets", "res/all"}).status, 0);
  EXPECT_NE(tree.read("src/show.c").find("#define ASSETS \"res/all/\"\n"), std::string::npos);
  EXPECT_EQ(tree.shell(run).out, before.out);
}

TEST(AssetShapes, templates_found_by_their_names) {
  Files files = {{"app.py", "def page(render):\n    return render(\"stations/list.html\")\n"},
                 {"templates/stations/list.html", "<p>\n"}};
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "templates/stations/list.html", "templates/stations/all.html"}).status, 0);
  EXPECT_NE(tree.read("app.py").find("render(\"stations/all.html\")"), std::string::npos);
  // Where the folder is, its framework is told elsewhere.
  ASSERT_EQ(tree.run({"move", "templates", "views"}).status, 0);
  EXPECT_NE(tree.read("app.py").find("render(\"stations/all.html\")"), std::string::npos);
}

Files taught() {
  return {{"yellow-compass.toml",
           "[[references]]\nfiles = [\"stations/**/*.gauge\"]\npattern = 'icon\\s+(?<path>\\S+)'\nbase = "
           "\"assets\"\n"
           "[[references]]\nfiles = [\"*.yaml\"]\nformat = \"yaml\"\nkey = \"stations.*.icon\"\nbase = "
           "\"/assets/\"\n"
           "[[references]]\nfiles = [\"**/*.gauge\"]\npattern = '^see (?<path>.+)$'\n"},
          {"stations/north/pole.gauge", "icon icons/pole.png\nsee ../notes.txt\n"},
          {"stations/notes.txt", "n\n"},
          {"all.yaml", "stations:\n  - icon: icons/pole.png # keep\n    name: icons/pole.png\n"},
          {"assets/icons/pole.png", "p"}};
}

TEST(AssetShapes, what_is_taught_is_like_what_is_built_in) {
  Workspace tree(taught());
  Outcome refs = tree.run({"refs", "assets/icons/pole.png"});
  EXPECT_NE(refs.out.find("stations/north/pole.gauge:1:6  listed icons/pole.png\n"), std::string::npos)
      << refs.told;
  ASSERT_EQ(tree.run({"move", "assets/icons/pole.png", "assets/marks/mast.png"}).status, 0);
  ASSERT_EQ(tree.run({"move", "stations/notes.txt", "notes.txt"}).status, 0);
  EXPECT_EQ(tree.read("stations/north/pole.gauge"), "icon marks/mast.png\nsee ../../notes.txt\n");
  EXPECT_NE(tree.read("all.yaml").find("- icon: marks/mast.png # keep\n"), std::string::npos);
  // The folder that it names is a reference too.
  ASSERT_EQ(tree.run({"move", "assets", "content"}).status, 0);
  EXPECT_NE(tree.read("yellow-compass.toml").find("base = \"content\"\n"), std::string::npos);
  EXPECT_NE(tree.read("yellow-compass.toml").find("base = \"/content/\"\n"), std::string::npos);
  EXPECT_EQ(tree.read("stations/north/pole.gauge"), "icon marks/mast.png\nsee ../../notes.txt\n");
  tree.write("stations/north/pole.gauge", "icon marks/gone.png\n");
  EXPECT_NE(tree.run({"check"}).out.find("marks/gone.png leads nowhere"), std::string::npos);
}

TEST(AssetShapes, what_is_taught_wrongly_is_said) {
  for (const char* text :
       {"[[references]]\nfiles = [\"*\"]\npattern = '(?<path>'\n",
        "[[references]]\nfiles = [\"*\"]\npattern = 'icon'\n", "[[references]]\nfiles = [\"*\"]\n",
        "[[references]]\nfiles = [\"*\"]\nformat = \"tide\"\nkey = \"a\"\n"}) {
    Outcome said = Workspace(Files{{"yellow-compass.toml", text}}).run({"survey"});
    EXPECT_EQ(said.status, 2) << said.told;
    EXPECT_NE(said.err.find("yellow-compass.toml:"), std::string::npos) << said.told;
  }
}

}  // namespace
}  // namespace yc::test
