// Paths in the code of compiled languages.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

bool holds(const Workspace& tree, const std::string& file, const std::string& text) {
  return tree.read(file).find(text) != std::string::npos;
}

TEST(CodePathShapes, a_program_in_c_that_opens_its_table) {
  Files files = {
      {"Makefile", "show: show.c\n\tcc -o $@ $<\n"},
      {"show.c",
       "#include <stdio.h>\n// opens \"data/high.csv\"\nint main(void) {\n  char c = '\"';\n  FILE *f = "
       "fopen(\"data/high.csv\", \"r\");\n  printf(\"%c data/high.csv https://t.example/data/high.csv\\n\", "
       "f ? c : "
       "'n');\n  return !f;\n}\n"},
      {"data/high.csv", "1\n"}};
  Outcome moved = expect_move_keeps_build(Workspace(files), "data -> assets/tables\n", "make -s && ./show");
  EXPECT_NE(moved.out.find("fopen(\"assets/tables/high.csv\""), std::string::npos) << moved.told;
  EXPECT_NE(moved.out.find("1 edit in 1 file"), std::string::npos) << moved.told;
}

TEST(CodePathShapes, paths_beside_a_source_in_cpp) {
  Files files = {{"Makefile", "show: src/show.cpp\n\tc++ -std=c++17 -o $@ $<\n"},
                 {"src/show.cpp",
                  "#include <filesystem>\n#include <iostream>\nint main() {\n  auto f = "
                  "std::filesystem::path(__FILE__).parent_path() / \"marks/pole.txt\";\n  std::cout << "
                  "std::filesystem::exists(f) << R\"(marks/\")\" << \"\\n\";\n  return 0;\n}\n"},
                 {"src/marks/pole.txt", "1\n"}};
  Outcome moved = expect_move_keeps_build(Workspace(files), "src/marks -> src/signs\n", "make -s && ./show");
  EXPECT_NE(moved.out.find("\"signs/pole.txt\""), std::string::npos) << moved.told;
  moved =
      expect_move_keeps_build(Workspace(files), "src/show.cpp -> src/bin/show.cpp\n", "make -s && ./show");
  EXPECT_NE(moved.out.find("\"../marks/pole.txt\""), std::string::npos) << moved.told;
}

TEST(CodePathShapes, rust_go_and_csharp) {
  Files files = {
      {"decoder/Cargo.toml", "[package]\nname = \"decoder\"\n"},
      {"decoder/src/main.rs",
       "#[path = \"wire/frame.rs\"]\nmod frame;\nfn main<'a>() {\n  let t = "
       "include_str!(\"../data/table.txt\");\n  let b = "
       "include_bytes!(concat!(env!(\"CARGO_MANIFEST_DIR\"), \"/data/table.txt\"));\n  let c = '\"'; let r = "
       "r#\"data/\"other.txt\"#;\n}\n"},
      {"decoder/src/wire/frame.rs", ""},
      {"decoder/data/table.txt", "1\n"},
      {"serve/main.go",
       "package main\n\nimport _ \"embed\"\n\n//go:embed pages/index.html\nvar page string\n"},
      {"serve/pages/index.html", "<p>\n"},
      {"office/Members.cs",
       "var list = File.ReadAllText(Path.Combine(\"data\", \"members.json\"));\nvar icon = \"icons/\" + "
       "name;\nvar v = "
       "$\"{a}data\"; var p = @\"c:\\data\";\n"},
      {"office/data/members.json", "[]\n"},
      {"office/icons/m.png", "m"}};
  Workspace tree(files);
  Outcome moved = tree.run({"move", "decoder/data/table.txt", "decoder/tables/codes.txt"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_TRUE(holds(tree, "decoder/src/main.rs", "include_str!(\"../tables/codes.txt\")"));
  EXPECT_TRUE(holds(tree, "decoder/src/main.rs", "\"/tables/codes.txt\")"));
  EXPECT_TRUE(holds(tree, "decoder/src/main.rs", "r#\"data/\"other.txt\"#"));
  ASSERT_EQ(tree.run({"move", "decoder/src/wire", "decoder/src/radio", "--accept-unseen"}).status, 0);
  EXPECT_TRUE(holds(tree, "decoder/src/main.rs", "#[path = \"radio/frame.rs\"]"));
  ASSERT_EQ(tree.run({"move", "serve/pages", "serve/site"}).status, 0);
  EXPECT_TRUE(holds(tree, "serve/main.go", "//go:embed site/index.html\n"));
  moved = tree.run({"move", "office/data", "office/store/data"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_TRUE(holds(tree, "office/Members.cs", "Path.Combine(\"store/data\", \"members.json\")"));
  moved = tree.run({"move", "office/icons/m.png", "office/icons/n.png"});
  EXPECT_EQ(moved.status, 3) << moved.told;
  EXPECT_NE(moved.err.find("office/Members.cs:2:"), std::string::npos) << moved.told;
  ASSERT_EQ(tree.run({"move", "office/icons", "office/signs"}).status, 0);
  EXPECT_TRUE(holds(tree, "office/Members.cs", "\"signs/\" + name"));
}

TEST(CodePathShapes, folders_that_programs_list) {
  Files files = {
      {"decoder/Cargo.toml", "[package]\nname = \"decoder\"\n"},
      {"decoder/src/main.rs",
       "fn main() {\n  for entry in std::fs::read_dir(\"tables\").unwrap() {}\n"
       "  let one = std::fs::read(format!(\"{}/tables/high.txt\", env!(\"CARGO_MANIFEST_DIR\")));\n"
       "  println!(\"tables\");\n}\n"},
      {"decoder/tables/high.txt", "1\n"},
      {"decoder/tables/low.txt", "1\n"},
      {"serve/main.go", "package main\n\nvar pages, _ = os.ReadDir(\"pages\")\n"},
      {"serve/pages/index.html", "<p>\n"},
      {"office/Members.cs", "var icons = Directory.GetFiles(\"icons\");\nvar word = Say(\"icons\");\n"},
      {"office/icons/m.png", "m"}};
  Workspace tree(files);
  for (auto [from, to] : {std::pair("decoder/tables", "decoder/data/tables"),
                          {"serve/pages", "serve/site"},
                          {"office/icons", "office/art/icons"}}) {
    Outcome moved = tree.run({"move", from, to});
    EXPECT_EQ(moved.status, 0) << moved.told;
  }
  EXPECT_TRUE(holds(tree, "decoder/src/main.rs", "read_dir(\"data/tables\")"));
  EXPECT_TRUE(holds(tree, "decoder/src/main.rs", "\"{}/data/tables/high.txt\""));
  EXPECT_TRUE(holds(tree, "decoder/src/main.rs", "println!(\"tables\")")) << "no path is meant";
  EXPECT_TRUE(holds(tree, "serve/main.go", "os.ReadDir(\"site\")"));
  EXPECT_TRUE(holds(tree, "office/Members.cs", "GetFiles(\"art/icons\")"));
  EXPECT_TRUE(holds(tree, "office/Members.cs", "Say(\"icons\")"));
  // What a program writes, or puts together of more, is not there yet.
  tree.write("decoder/src/main.rs",
             "fn main() {\n  let a = format!(\"{}/out/{}.txt\", env!(\"CARGO_MANIFEST_DIR\"), 1);\n"
             "  let b = format!(\"{}/made.txt\", env!(\"CARGO_MANIFEST_DIR\"));\n"
             "  std::fs::read_dir(\"data/tables\");\n}\n");
  EXPECT_EQ(tree.run({"check"}).out.find("decoder/src/main.rs"), std::string::npos);
  // A file that leaves such a folder is not found there any more.
  for (const char* file :
       {"decoder/data/tables/low.txt", "serve/site/index.html", "office/art/icons/m.png"}) {
    Outcome left = tree.run({"move", file, "elsewhere/file"});
    EXPECT_EQ(left.status, 3) << file << left.told;
    EXPECT_NE(left.err.find("only known when it runs"), std::string::npos) << left.told;
  }
}

// What macros of crates embed, named from the crate's folder.
TEST(CodePathShapes, files_that_macros_of_rust_embed) {
  Workspace tree(
      Files{{"Cargo.toml", "[package]\nname = \"tide\"\nversion = \"0.1.0\"\n"},
            {"src/deep/main.rs",
             "#[derive(Template)]\n#[template(path = \"level.html\")]\nstruct Level;\n#[derive(Embed)]\n"
             "#[folder = \"public/\"]\nstruct Assets;\n"
             "static DATA: Dir = include_dir!(\"$CARGO_MANIFEST_DIR/data\");\nfn main() {}\n"},
            {"templates/level.html", "<p>\n"},
            {"public/a.css", "a {}\n"},
            {"data/a.txt", "1\n"},
            {"tests/ui/bad.rs", "fn main() {}\n"},
            {"tests/ui/bad.stderr", "no\n"}});
  expect_move_says(tree, "public/ -> static/\n", {"#[folder = \"static/\"]"}, "true");
  expect_move_says(tree, "data/ -> tables/\n", {"\"$CARGO_MANIFEST_DIR/tables\""}, "true");
  expect_move_says(tree, "templates/level.html -> templates/pages/level.html\n",
                   {"(path = \"pages/level.html\")"}, "true");
  ASSERT_EQ(tree.run({"move", "tests/ui/bad.rs", "tests/ui/worse.rs", "--accept-unseen"}).status, 0);
  EXPECT_TRUE(tree.exists("tests/ui/worse.stderr"));
}

}  // namespace
}  // namespace yc::test
