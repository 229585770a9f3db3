// Plans where a program glues a text to a constant, a table per language: what moves, and every edit that
// follows.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

const TreeFiles kAssets = {
    {"assets/icons/pole.png", ""}, {"assets/icons/buoy.png", ""}, {"assets/tides.csv", ""}};

TreeFiles with_assets(TreeFiles files) {
  files.insert(files.end(), kAssets.begin(), kAssets.end());
  return files;
}

const TreeMoves kAllAssets = {{"assets", "res/assets"}};
const TreeMoves kOneIcon = {{"assets/icons/pole.png", "assets/signs/pole.png"}};

TEST(GluedPlans, c) {
  expect_edits({
      {"a macro beside a text",
       with_assets({{"src/load.c",
                     "#define ASSETS \"assets/\"\nvoid f(void) {\n  load(ASSETS \"icons/pole.png\");\n  "
                     "load(ASSETS \"tides.csv\");\n}\n"}}),
       kAllAssets,
       {"src/load.c: assets/ -> res/assets/ ?"}},
      {"of which one text alone is changed",
       with_assets({{"src/load.c",
                     "#define ASSETS \"assets/\"\nvoid f(void) {\n  load(ASSETS \"icons/pole.png\");\n}\n"}}),
       kOneIcon,
       {"src/load.c: icons/pole.png -> signs/pole.png ?"}},
      {"defined in a header that others use",
       with_assets({{"src/paths.h", "#define ASSET_DIR \"assets\"\n"},
                    {"src/load.c", "#include \"paths.h\"\nchar* a = load(ASSET_DIR \"/icons/pole.png\");\n"},
                    {"src/save.c", "#include \"paths.h\"\nchar* b = load(ASSET_DIR \"/tides.csv\");\n"}}),
       kAllAssets,
       {"src/paths.h: assets -> res/assets ?"}},
      {"a constant of C++, and a path that is divided",
       with_assets(
           {{"src/load.cpp",
             "#include <filesystem>\nconst std::filesystem::path kRoot{\"assets\"};\nconst std::string "
             "kIcons = \"assets/icons\";\nauto a = kRoot / \"tides.csv\";\nauto b = kIcons + "
             "\"/pole.png\";\nauto c = kRoot / \"icons\" / \"pole.png\";\n"}}),
       kOneIcon,
       {"src/load.cpp: /pole.png -> /../signs/pole.png ?", "src/load.cpp: icons -> signs ?"}},
      {"a word is no folder",
       with_assets({{"src/tool.c", "#define TOOL \"assets\"\nvoid f(void) { puts(TOOL \"dec\"); }\n"}}),
       kAllAssets,
       {}},
  });
}

TEST(GluedPlans, modules) {
  expect_edits({
      {"glued, in a template and joined",
       with_assets(
           {{"src/load.js",
             "const ASSETS = 'assets';\nconst icons = ASSETS + '/icons';\nload(`${ASSETS}/tides.csv`);\n"
             "load(icons + '/pole.png');\nload(path.join(ASSETS, 'icons', 'buoy.png'));\n"}}),
       kAllAssets,
       {"src/load.js: assets -> res/assets ?"}},
      {"one of them",
       with_assets(
           {{"src/load.ts",
             "export const ASSETS: string = 'assets/';\nload(ASSETS + 'icons/pole.png');\nload(ASSETS + "
             "'icons/buoy.png');\n"}}),
       kOneIcon,
       {"src/load.ts: icons/pole.png -> signs/pole.png ?"}},
      {"by the constant of another module",
       with_assets(
           {{"src/paths.js", "export const ASSETS = 'assets/'\nexport const OTHER = 'x'\n"},
            {"src/load.js", "import { ASSETS } from './paths.js'\nload(ASSETS + 'tides.csv')\n"},
            {"src/more.js", "import * as paths from './paths.js'\nload(paths.ASSETS + 'tides.csv')\n"}}),
       {{"assets/tides.csv", "assets/tables/tides.csv"}},
       {"src/load.js: tides.csv -> tables/tides.csv ?", "src/more.js: tides.csv -> tables/tides.csv ?"}},
      {"with an end that only the program knows",
       with_assets(
           {{"src/load.js",
             "const ASSETS = 'assets';\nfor (const n of names) load(`${ASSETS}/icons/${n}.png`);\n"}}),
       {{"assets/icons", "assets/signs"}},
       {"src/load.js: /icons -> /signs ?"}},
  });
}

TEST(GluedPlans, csharp) {
  expect_edits({
      {"glued, combined and interpolated",
       with_assets(
           {{"Office/Load.cs",
             "class Load {\n  const string Root = \"assets\";\n  string A = Root + \"/tides.csv\";\n  "
             "string B = Path.Combine(Root, \"icons\", \"pole.png\");\n  string C = "
             "$\"{Root}/icons/buoy.png\";\n}\n"}}),
       kAllAssets,
       {"Office/Load.cs: assets -> res/assets ?"}},
      {"one of them",
       with_assets(
           {{"Office/Load.cs",
             "class Load {\n  const string Root = \"assets\";\n  string B = Path.Combine(Root, \"icons\", "
             "\"pole.png\");\n  string C = $\"{Root}/icons/pole.png\";\n}\n"}}),
       kOneIcon,
       {"Office/Load.cs: icons -> signs ?", "Office/Load.cs: /icons/pole.png -> /signs/pole.png ?"}},
      {"by the constant of another class",
       with_assets(
           {{"Office/Paths.cs", "static class Paths {\n  public const string Assets = \"assets/\";\n}\n"},
            {"Office/Load.cs", "class Load {\n  string A = Paths.Assets + \"tides.csv\";\n}\n"}}),
       kAllAssets,
       {"Office/Paths.cs: assets/ -> res/assets/ ?"}},
  });
}

TEST(GluedPlans, others) {
  expect_edits({
      {"Rust: joined, and formatted both ways",
       with_assets(
           {{"src/main.rs",
             "const ASSETS: &str = \"assets\";\nfn main() {\n  let a = "
             "Path::new(ASSETS).join(\"tides.csv\");\n  let b = format!(\"{ASSETS}/icons/pole.png\");\n  "
             "let c = format!(\"{}/icons/buoy.png\", ASSETS);\n}\n"}}),
       kAllAssets,
       {"src/main.rs: assets -> res/assets ?"}},
      {"Go",
       with_assets({{"main.go",
                     "package main\n\nconst assets = \"assets\"\n\nfunc f() {\n\tload(assets + "
                     "\"/tides.csv\")\n\tload(filepath.Join(assets, \"icons\", \"pole.png\"))\n}\n"}}),
       kOneIcon,
       {"main.go: icons -> signs ?"}},
      {"Java",
       with_assets({{"Load.java",
                     "class Load {\n  static final String ROOT = \"assets/\";\n  File a = new File(ROOT, "
                     "\"tides.csv\");\n  String b = ROOT + \"icons/pole.png\";\n}\n"}}),
       kAllAssets,
       {"Load.java: assets/ -> res/assets/ ?"}},
      {"Kotlin",
       with_assets({{"Load.kt",
                     "const val ROOT = \"assets\"\nval a = \"$ROOT/icons/pole.png\"\nval b = "
                     "\"${ROOT}/tides.csv\"\n"}}),
       kOneIcon,
       {"Load.kt: /icons/pole.png -> /signs/pole.png ?"}},
      {"Swift",
       with_assets({{"Load.swift",
                     "let root: String = \"assets\"\nlet a = \"\\(root)/icons/pole.png\"\nlet b = root + "
                     "\"/tides.csv\"\n"}}),
       kAllAssets,
       {"Load.swift: assets -> res/assets ?"}},
  });
}

TEST(GluedPlans, texts_that_are_filled_in) {
  const TreeMoves icons = {{"assets/icons", "assets/signs"}};
  expect_edits({
      {"a template",
       with_assets({{"load.js", "load(`assets/icons/${name}.png`, `${a}/icons/${b}`, `a ${b}/c`);\n"}}),
       icons,
       {"load.js: assets/icons -> assets/signs ?"}},
      {"that a computed import is, once",
       {{"src/load.js", "import(`./icons/${name}.js`);\n"}, {"src/icons/pole.js", ""}},
       {{"src/icons", "src/signs"}},
       {"src/load.js: ./icons -> ./signs"}},
      {"C#",
       with_assets({{"Load.cs", "class A { string a = $\"assets/icons/{name}.png\"; }\n"}}),
       icons,
       {"Load.cs: assets/icons -> assets/signs ?"}},
      {"Rust",
       with_assets({{"src/main.rs", "fn main() { load(format!(\"assets/icons/{}.png\", name)); }\n"}}),
       icons,
       {"src/main.rs: assets/icons -> assets/signs ?"}},
      {"Go",
       with_assets({{"main.go", "package main\n\nvar a = fmt.Sprintf(\"assets/icons/%s.png\", name)\n"}}),
       icons,
       {"main.go: assets/icons -> assets/signs ?"}},
      {"Java, Kotlin and Swift",
       with_assets({{"A.java", "class A { String a = String.format(\"assets/icons/%s.png\", name); }\n"},
                    {"B.kt", "val a = \"assets/icons/$name.png\"\n"},
                    {"C.swift", "let a = \"assets/icons/\\(name).png\"\n"}}),
       icons,
       {"A.java: assets/icons -> assets/signs ?", "B.kt: assets/icons -> assets/signs ?",
        "C.swift: assets/icons -> assets/signs ?"}},
  });
}

TEST(GluedPlans, prefixes_that_are_no_folders) {
  expect_edits({
      {"the folder in it follows",
       {{"load.js", "const ICON = 'assets/icon-';\nload(ICON + 'pole.png');\n"},
        {"assets/icon-pole.png", ""}},
       {{"assets", "res"}},
       {"load.js: assets/icon- -> res/icon- ?"}},
  });
}

TEST(GluedPlans, what_only_the_program_knows_stands_in_the_way) {
  Plan plan = planned(with_assets({{"src/load.c",
                                    "#define ASSETS \"assets/\"\nvoid f(const char* n) {\n  "
                                    "load(ASSETS \"icons/%s.png\", n);\n}\n"}}),
                      kOneIcon);
  EXPECT_THAT(reasons(plan), testing::ElementsAre("unseen src/load.c"));
  // A format alone, in languages that number or name what is put in, too; behind another macro, and with an
  // ending that tells which files are meant.
  const TreeFiles formats = with_assets({
      {"a.c", "#define DIR \"other/\"\nvoid f(void) { load(\"assets/icons/%s.png\", n); }\n"},
      {"b.cpp", "auto a = std::format(\"assets/icons/{}.png\", n);\n"},
      {"c.c", "#define ICONS \"assets/icons/\"\nvoid f(void) { load(ICONS \"%s.png\", n); }\n"},
      {"d.c", "void f(void) { load(\"assets/icons/%s.svg\", n); }\n"},
      {"E.cs", "class E { string a = string.Format(\"assets/icons/{0}.png\", n); }\n"},
      {"f.go", "package f\n\nvar a = fmt.Sprintf(\"assets/icons/%s.svg\", n)\n"},
  });
  EXPECT_THAT(reasons(planned(formats, kOneIcon)),
              testing::UnorderedElementsAre("unseen a.c", "unseen b.cpp", "unseen c.c", "unseen E.cs"));
  // The folder as a whole can follow.
  plan = planned(with_assets({{"src/load.c",
                               "#define ASSETS \"assets/\"\nvoid f(const char* n) {\n  load(ASSETS "
                               "\"icons/%s.png\", n);\n}\n"}}),
                 {{"assets/icons", "assets/signs"}});
  EXPECT_THAT(edits(plan), testing::ElementsAre("src/load.c: icons -> signs ?"));
}

// The name alone says that it may be what moves.
TEST(GluedPlans, what_is_glued_to_something_unknown_is_a_doubt) {
  const TreeFiles kTwoMeanings = {
      {"src/load.c",
       "#ifdef A\n#define ASSETS \"assets/\"\n#else\n#define ASSETS \"/usr/share/\"\n#endif\n"
       "char* a = load(ASSETS \"icons/pole.png\");\n"}};
  const TreeFiles kUnknown = {{"src/load.js", "load(other.join(x, 'pole.png'));\n"}};
  const TreeFiles kUnread = {{"src/Load.java", "load(Load.class.getResource(\"icons/pole.png\"));\n"}};
  for (const TreeFiles& files : {kTwoMeanings, kUnknown, kUnread}) {
    EXPECT_EQ(reasons(planned(with_assets(files), kOneIcon)),
              std::vector<std::string>{"name-in-code " + files[0].first});
  }
  // Languages that are not read.
  for (const char* text : {"open(my $f, \"$FindBin::Bin/../assets/icons/pole.png\");\n",
                           "open(F, \"$dir/pole.png\");\n", "open(F, \"<${dir}/icons/pole.png\");\n",
                           "File.read(\"#{dir}/pole.png\")\n", "$x = \"@{[f()]}/pole.png\";\n",
                           "my @all = qw(mast.png pole.png);\n", "for (glob 'icons/pole.png') {}\n"}) {
    EXPECT_EQ(reasons(planned(with_assets({{"src/load.pl", text}}), kOneIcon)),
              std::vector<std::string>{"name-in-code src/load.pl"})
        << text;
  }
  const TreeFiles kClimbs = {{"src/load.py", "def f(x):\n    return x / \"..\" / \"icons\", \"icons\"\n"}};
  EXPECT_EQ(reasons(planned(with_assets(kClimbs), {{"assets/icons", "signs"}})),
            std::vector<std::string>{"name-in-code src/load.py"});
  const TreeFiles kResource = {
      {"src/load.cpp", "QFile a(\":/assets/icons/pole.png\");\n"},
      {"all.qrc", "<RCC><qresource><file>assets/icons/pole.png</file></qresource></RCC>\n"}};
  EXPECT_EQ(in_the_way(planned(with_assets(kResource), kOneIcon)), std::vector<std::string>());
  const TreeFiles kOther = {
      {"src/load.js", "// opens 'pole.png'\nload(x, 'signs/pole.png', 'flagpole.png');\n"}};
  EXPECT_EQ(in_the_way(planned(with_assets(kOther), kOneIcon)), std::vector<std::string>());
  EXPECT_EQ(in_the_way(planned(with_assets(kUnknown), {{"assets/icons", "assets/signs"}})),
            std::vector<std::string>())
      << "the program is told another folder";
}

}  // namespace
}  // namespace yc::test
