// Programs that open what they read through a function of their own, run before and after.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const char* const kRun =
    "python3 -B show.py && node show.js && mcs -out:show.exe Show.cs && mono show.exe && g++ show.cpp -o "
    "show.out && "
    "./show.out; rm -f show.exe show.out";

// `head` is the folder in which all callers say what they want; `opened` what the functions open.
Files programs(const std::string& head, const std::string& glued) {
  auto constant = [&](const std::string& text) { return glued.empty() ? std::string() : text; };
  return {{"show.py", "from loader import load\n\nprint(load('" + head + "tides.csv'), load('" + head +
                          "icons/pole.png'))\n"},
          {"loader.py", "import sys\n" + constant("\nASSETS = 'assets/'\n") +
                            "\n\ndef load(name):\n    with open(" + glued +
                            "name) as text:\n        return text.read()\n"},
          {"show.js", "const { load } = require('./load.js');\n\nconsole.log(load('" + head +
                          "tides.csv'), load('" + head + "icons/pole.png'));\n"},
          {"load.js", "const fs = require('fs');\n" + constant("\nconst ASSETS = 'assets/';\n") +
                          "\nconst load = (name) => String(fs.readFileSync(" + glued +
                          "name));\nmodule.exports = { load };\n"},
          {"Show.cs", "using System.IO;\n\nclass Show {\n" +
                          constant("  private const string ASSETS = \"assets/\";\n") +
                          "  static string Load(string name) {\n    return File.ReadAllText(" + glued +
                          "name);\n  }\n\n  static void Main() { System.Console.WriteLine(Load(\"" + head +
                          "tides.csv\") + Load(\"" + head + "icons/pole.png\")); }\n}\n"},
          {"show.cpp", "#include <fstream>\n#include <iostream>\n#include <string>\n\n" +
                           constant("const std::string ASSETS = \"assets/\";\n\n") +
                           "void show(const std::string& name) {\n  std::cout << std::ifstream(" + glued +
                           "name).rdbuf();\n}\n\nint main() {\n  show(\"" + head +
                           "tides.csv\");\n  show(\"" + head + "icons/pole.png\");\n}\n"},
          {"assets/tides.csv", "6:02,high\n"},
          {"assets/icons/pole.png", "p\n"}};
}

TEST(LoaderShapes, what_a_function_glues_to_a_folder_is_followed) {
  Workspace tree(programs("", "ASSETS + "));
  Outcome before = tree.shell(kRun);
  ASSERT_EQ(before.status, 0) << before.told;
  for (const auto& [from, to] : {std::pair("assets/icons/pole.png", "assets/marks/mast.png"),
                                 std::pair("assets/marks", "assets/signs"), std::pair("assets", "res/all"),
                                 std::pair("res/all/tides.csv", "tables/tides.csv")}) {
    Outcome moved = tree.run({"move", from, to});
    ASSERT_EQ(moved.status, 0) << moved.told;
    EXPECT_EQ(tree.shell(kRun).out, before.out) << from;
  }
  EXPECT_NE(tree.read("show.js").find("load('../../tables/tides.csv'), load('signs/mast.png')"),
            std::string::npos);
}

TEST(LoaderShapes, what_else_goes_through_the_function_is_told) {
  Files files = programs("", "ASSETS + ");
  std::string& program = files[4].second;
  program.replace(program.find("Load(\"tides.csv\")"), 17, "Load(args[0])");
  program.replace(program.find("Main()"), 6, "Main(string[] args)");
  Workspace tree(files);
  Outcome moved = tree.run({"move", "assets/tides.csv", "tables/tides.csv"});
  EXPECT_EQ(moved.status, 3);
  EXPECT_NE(moved.told.find("Show.cs:4:34: \"assets/…\" has a part that is only known when it runs"),
            std::string::npos)
      << moved.told;
}

TEST(LoaderShapes, the_constant_goes_where_the_path_is_opened) {
  Workspace tree(programs("assets/", ""));
  Outcome before = tree.shell(kRun);
  ASSERT_EQ(before.status, 0) << before.told;
  Outcome done = tree.run({"restyle", "--asset-root", "ASSETS=assets"});
  ASSERT_EQ(done.status, 0) << done.told;
  EXPECT_EQ(tree.shell(kRun).out, before.out);
  EXPECT_NE(tree.read("loader.py").find("import sys\n\nASSETS = \"assets/\"\n"), std::string::npos);
  EXPECT_NE(tree.read("loader.py").find("open(ASSETS + name)"), std::string::npos);
  EXPECT_NE(tree.read("show.py").find("load('tides.csv'), load('icons/pole.png')"), std::string::npos);
  EXPECT_NE(tree.read("load.js").find("String(fs.readFileSync(ASSETS + name))"), std::string::npos);
  EXPECT_NE(tree.read("Show.cs").find("File.ReadAllText(ASSETS + name)"), std::string::npos);
  EXPECT_NE(tree.read("show.cpp").find("std::ifstream(ASSETS + name)"), std::string::npos);
  EXPECT_NE(tree.read("show.cpp").find("show(\"tides.csv\")"), std::string::npos);
  ASSERT_EQ(tree.run({"move", "assets", "res"}).status, 0);
  EXPECT_EQ(tree.shell(kRun).out, before.out);
}

TEST(LoaderShapes, a_function_with_other_callers_keeps_its_text) {
  Files files = programs("assets/", "");
  files[0].second += "print(load('loader.py')[:6])\n";
  Workspace tree(files);
  Outcome before = tree.shell(kRun);
  ASSERT_EQ(tree.run({"restyle", "--asset-root", "ASSETS=assets"}).status, 0);
  EXPECT_EQ(tree.shell(kRun).out, before.out);
  EXPECT_EQ(tree.read("loader.py"), files[1].second);
  EXPECT_NE(tree.read("show.py").find("load(ASSETS + 'tides.csv')"), std::string::npos);
}

// Found by random moves in a program: a function that is called with a path, and has an empty text in it.
TEST(LoaderShapes, a_function_may_say_nothing) {
  Workspace tree({{"show.py",
                   "def load(name):\n    print('', end='')\n    print('file ' + name)\n    return "
                   "open(name).read()\n\n\n"
                   "print(load('data/tides.csv'))\n"},
                  {"data/tides.csv", "6:02\n"}});
  ASSERT_EQ(tree.run({"move", "data/tides.csv", "tables/tides.csv"}).status, 0);
  EXPECT_NE(tree.read("show.py").find("load('tables/tides.csv')"), std::string::npos);
}

TEST(LoaderShapes, a_function_of_the_file_itself_is_none_of_another) {
  Workspace tree(
      {{"load.js",
        "const fs = require('fs');\nconst ASSETS = 'assets/';\nconst load = (name) => "
        "String(fs.readFileSync(ASSETS + name));\nmodule.exports = load;\n"},
       {"show.js", "const load = require('./load.js');\nconsole.log(load('tides.csv'));\n"},
       {"other.js", "function load(name) {\n  return name.length;\n}\nconsole.log(load('tides.csv'));\n"},
       {"assets/tides.csv", "6:02\n"}});
  std::string run = "node show.js && node other.js";
  Outcome before = tree.shell(run);
  // What the other one does with the name, only the program knows.
  Outcome refused = tree.run({"move", "assets/tides.csv", "assets/all/levels.csv"});
  EXPECT_NE(refused.err.find("other.js:4:19"), std::string::npos) << refused.told;
  ASSERT_EQ(tree.run({"move", "assets/tides.csv", "assets/all/levels.csv", "--accept-unseen"}).status, 0);
  EXPECT_EQ(tree.shell(run).out, before.out);
  EXPECT_NE(tree.read("show.js").find("load('all/levels.csv')"), std::string::npos);
}

TEST(LoaderShapes, a_constant_that_others_go_on_from_stays) {
  Files files = {{"show.py",
                  "ASSETS = 'res/all/'\nprint(open(ASSETS + 'tides.csv').read(), open(ASSETS + "
                  "'pole.png').read())\n"},
                 {"res/all/tides.csv", "6:02\n"},
                 {"res/all/pole.png", "p\n"}};
  Workspace tree(files);
  Outcome before = tree.shell("python3 -B show.py");
  Outcome moved = tree.run({"move", "res/all/tides.csv", "data/tides.csv"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_EQ(tree.shell("python3 -B show.py").out, before.out);
  EXPECT_NE(tree.read("show.py").find("ASSETS + '../../data/tides.csv'"), std::string::npos);
}

}  // namespace
}  // namespace yc::test
