// Plans for assets that code, data and documents name by path, a table.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

// A tree in which `file` names icons/pole.png, and the move of that icon.
PlanCase naming(const std::string& what, const std::string& file, const std::string& bytes,
                const std::vector<std::string>& edits) {
  return {what,
          {{file, bytes}, {"icons/pole.png", "p"}, {"icons/mast.png", "m"}},
          {{"icons/pole.png", "assets/icons/pole.png"}},
          edits};
}

std::vector<std::string> edit(const std::string& file, const std::string& mark = " ?") {
  return {file + ": icons/pole.png -> assets/icons/pole.png" + mark};
}

TEST(AssetPlans, values_of_data) {
  expect_edits({
      naming("json", "a.json", "{ \"icon\": \"icons/pole.png\", \"name\": \"pole\" }\n", edit("a.json")),
      naming("json with escapes", "a.json", "{ \"icon\": \"icons\\/pole.png\" }\n",
             {"a.json: icons\\/pole.png -> assets/icons/pole.png ?"}),
      naming("yaml, plain", "a.yaml", "station:\n  icon: icons/pole.png   # the pole\n", edit("a.yaml")),
      naming("yaml, quoted both ways", "a.yaml", "a: 'icons/pole.png'\nb: \"icons/pole.png\"\n",
             {"a.yaml: icons/pole.png -> assets/icons/pole.png ?",
              "a.yaml: icons/pole.png -> assets/icons/pole.png ?"}),
      naming("yaml, in a flow", "a.yaml", "icons: [icons/pole.png, {of: icons/mast.png}]\n", edit("a.yaml")),
      naming("toml, all quotings", "a.toml", "a = \"icons/pole.png\"\n[b]\nc = 'icons/pole.png'\n",
             {"a.toml: icons/pole.png -> assets/icons/pole.png ?",
              "a.toml: icons/pole.png -> assets/icons/pole.png ?"}),
      naming("ini", "a.ini", "[station]\nicon = icons/pole.png\n", edit("a.ini")),
      naming("xml, attributes and texts", "a.xml", "<s icon=\"icons/pole.png\"><i>icons/pole.png</i></s>\n",
             {"a.xml: icons/pole.png -> assets/icons/pole.png ?",
              "a.xml: icons/pole.png -> assets/icons/pole.png ?"}),
      naming("csv", "a.csv", "name,icon\npole,icons/pole.png\n\"mast\",\"icons/mast.png\"\n", edit("a.csv")),
      naming("a list of lines", "icons.lst", "icons/pole.png\nicons/mast.png\n", edit("icons.lst")),
  });
}

TEST(AssetPlans, what_is_no_path_in_data_stays) {
  for (const auto& [file, bytes] : std::vector<std::pair<std::string, std::string>>{
           {"a.json",
            "{ \"at\": \"https://tide.example/icons/pole.png\", \"say\": \"see icons/pole.png now\" }\n"},
           {"a.yaml", "route: /icons/pole.png/edit\nname: pole.png.bak\n"},
           {"a.toml", "pattern = \"icons/pole[.]png\"\n"},
           {"a.ini", "[icons/pole.png]\nx = 1\n"},
           {"a.csv", "icons,pole.png\n"}}) {
    SCOPED_TRACE(file);
    EXPECT_THAT(edits(planned({{file, bytes}, {"icons/pole.png", "p"}, {"icons/mast.png", "m"}},
                              {{"icons/pole.png", "assets/icons/pole.png"}})),
                IsEmpty());
  }
}

TEST(AssetPlans, known_kinds_of_data) {
  expect_edits({
      {"a tile map and its tile set",
       {{"maps/bay.tmx", "<map><tileset firstgid=\"1\" source=\"../tiles/sea.tsx\"/></map>\n"},
        {"tiles/sea.tsx", "<?xml version=\"1.0\"?>\n<tileset><image source=\"sea.png\"/></tileset>\n"},
        {"tiles/sea.png", ""}},
       {{"tiles/sea.tsx", "sets/sea.tsx"}},
       {"maps/bay.tmx: ../tiles/sea.tsx -> ../sets/sea.tsx", "tiles/sea.tsx: sea.png -> ../tiles/sea.png"}},
      {"materials and their textures",
       {{"m/pole.obj", "mtllib pole.mtl\nv 0 0 0\n"},
        {"m/pole.mtl", "newmtl a\nmap_Kd tex/wood.png\n"},
        {"m/tex/wood.png", ""}},
       {{"m/tex/wood.png", "m/textures/wood.png"}},
       {"m/pole.mtl: tex/wood.png -> textures/wood.png"}},
      {"a scene with its buffer and images",
       {{"m/s.gltf", "{ \"buffers\": [{ \"uri\": \"s.bin\" }], \"images\": [{ \"uri\": \"tex/a.png\" }] }\n"},
        {"m/s.bin", ""},
        {"m/tex/a.png", ""}},
       {{"m/s.bin", "m/data/s.bin"}, {"m/tex/a.png", "m/img/a.png"}},
       {"m/s.gltf: s.bin -> data/s.bin", "m/s.gltf: tex/a.png -> img/a.png"}},
  });
}

TEST(AssetPlans, the_base_of_a_manifest_is_learned) {
  TreeFiles files = {{"data/list.json", "{ \"all\": [\"a/x.txt\", \"a/y.txt\", \"b/z.txt\"] }\n"},
                     {"content/a/x.txt", ""},
                     {"content/a/y.txt", ""},
                     {"content/b/z.txt", ""}};
  EXPECT_THAT(edits(planned(files, {{"content/b/z.txt", "content/c/z.txt"}})),
              ElementsAre("data/list.json: b/z.txt -> c/z.txt ?"));
  EXPECT_THAT(edits(planned(files, {{"content", "assets/content"}})), IsEmpty())
      << "the entries mean the folder still";
}

TEST(AssetPlans, documents) {
  expect_edits({
      naming("links and pictures of Markdown", "doc.md",
             "![pole](icons/pole.png \"the pole\") and [it](<icons/pole.png>)\n\n[p]: icons/pole.png\n",
             {"doc.md: icons/pole.png -> assets/icons/pole.png",
              "doc.md: icons/pole.png -> assets/icons/pole.png",
              "doc.md: icons/pole.png -> assets/icons/pole.png"}),
      naming("code in Markdown is none", "doc.md",
             "```\n![pole](icons/pole.png)\n```\n`[x](icons/pole.png)`\n", {}),
      naming("directives of reStructuredText", "doc.rst",
             ".. image:: icons/pole.png\n   :alt: pole\n\n`it <icons/pole.png>`_\n",
             {"doc.rst: icons/pole.png -> assets/icons/pole.png",
              "doc.rst: icons/pole.png -> assets/icons/pole.png"}),
      {"a document goes to another depth",
       {{"guide.md", "[a](docs/a.md#top) [site](https://tide.example/docs/a.md)\n"},
        {"docs/a.md", "[up](../guide.md)\n"}},
       {{"guide.md", "pages/guide.md"}},
       {"docs/a.md: ../guide.md -> ../pages/guide.md", "guide.md: docs/a.md -> ../docs/a.md"}},
  });
}

TEST(AssetPlans, paths_in_code) {
  expect_edits({
      naming("C", "main.c", "#include <stdio.h>\nint main(void) { fopen(\"icons/pole.png\", \"r\"); }\n",
             edit("main.c")),
      naming("C++, put together", "main.cpp", "auto p = std::string(\"icons/\") + name;\n", {}),
      naming("Rust", "src/main.rs", "const P: &str = include_str!(\"../icons/pole.png\");\n",
             {"src/main.rs: ../icons/pole.png -> ../assets/icons/pole.png"}),
      naming("Go", "main.go", "package main\n//go:embed icons/pole.png\nvar p []byte\n",
             {"main.go: icons/pole.png -> assets/icons/pole.png"}),
      naming("C#", "Main.cs", "var p = Image.Load(\"icons/pole.png\");\n", edit("Main.cs")),
      naming("Java", "Main.java", "var p = new File(\"icons/pole.png\");\n", edit("Main.java")),
      naming("a string in a comment is a mention", "main.c", "/* see \"icons/pole.png\" */\nint x;\n", {}),
  });
}

TEST(AssetPlans, a_file_that_comes_to_the_folder_of_the_start_is_still_a_path) {
  auto opened = [](const std::string& name) {
    return TreeFiles{
        {"Makefile", "t: t.c\n\t$(CC) -o $@ t.c\n"},
        {"t.c", "#include <stdio.h>\nFILE* f(void) { return fopen(\"resources/" + name + "\", \"r\"); }\n"},
        {"resources/" + name, "<a/>\n"},
        {"resources/other.xml", "<a/>\n"}};
  };
  expect_edits({{"a name alone is a path where a file has it",
                 opened("tides.xml"),
                 {{"resources/tides.xml", "tides.xml"}},
                 {"t.c: resources/tides.xml -> tides.xml ?"}},
                {"the name of a source alone would be what a program writes",
                 opened("tides.h"),
                 {{"resources/tides.h", "tides.h"}},
                 {"t.c: resources/tides.h -> ./tides.h ?"}}});
}

}  // namespace
}  // namespace yc::test
