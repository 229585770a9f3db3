// Programs in Python that climb from their own file to a folder above, go there, and start others.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

// A program that finds what it needs from the root, by what it climbs there with.
Files program(const std::string& root, const std::string& rest) {
  return {{"tools/tide.py", "import os\nfrom pathlib import Path\nROOT = " + root + "\n" + rest},
          {"tools/wire.py", "print('wire')\n"},
          {"data/levels/low.txt", "1\n"},
          {"data/levels/high.txt", "2\n"}};
}

const char* const kStart = "cd / && python3 $(find $OLDPWD -name tide.py)";

TEST(ClimbShapes, where_a_program_moves_only_the_count_of_folders_changes) {
  struct Case {
    const char *root, *deeper, *higher;
  };
  for (const Case& one : std::initializer_list<Case>{
           {"Path(__file__).resolve().parents[1]", ".parents[2]", ".parents[0]"},
           {"Path(__file__).resolve().parent.parent", ".parent.parent.parent", ".resolve().parent\n"},
           {"Path(os.path.dirname(os.path.dirname(os.path.abspath(__file__))))",
            "os.path.dirname(os.path.dirname(os.path.dirname(", "Path(os.path.dirname(os.path.abspath("}}) {
    Workspace tree(program(one.root,
                           "assert (ROOT / 'data/levels' / 'low.txt').read_text() == '1\\n'\n"
                           "assert len(list(ROOT.joinpath('data', 'levels').iterdir())) == 2\n"
                           "assert len(list((ROOT / 'data').glob('*/*.txt'))) == 2\n"));
    expect_move_says(tree, "tools/tide.py -> tools/ebb/flow/tide.py\n", {"1 edit in 1 file"}, kStart);
    expect_move_says(tree, "tools/tide.py -> tools/ebb/tide.py\n", {one.deeper, "1 edit in 1 file"}, kStart);
    expect_move_says(tree, "tools/tide.py -> tide.py\n", {one.higher, "1 edit in 1 file"}, kStart);
    expect_refusal(tree, "data/levels/low.txt -> low.txt\n", {"\"tools/../data/levels/*\""});
  }
}

TEST(ClimbShapes, what_moves_along_with_a_program_is_named_from_the_root_again) {
  Workspace tree(program("Path(__file__).resolve().parents[1]",
                         "assert (ROOT / 'tools/wire.py').is_file()\n"
                         "assert (ROOT / 'data' / 'levels' / 'low.txt').is_file()\n"));
  expect_move_says(tree, "tools -> more/tools\n", {"parents[2]", "'more/tools/wire.py'", "2 edits in 1 file"},
                   kStart);
}

TEST(ClimbShapes, a_program_that_goes_to_the_root_goes_there_from_anywhere) {
  for (const char* root : {"os.path.dirname(os.path.dirname(os.path.abspath(__file__)))",
                           "os.path.join(os.path.dirname(os.path.abspath(__file__)), '..')"}) {
    Workspace tree(program(root, "os.chdir(ROOT)\nassert open('data/levels/low.txt').read()\n"));
    expect_move_says(tree, "tools/tide.py -> tools/ebb/tide.py\n", {"1 edit in 1 file"}, kStart);
    expect_move_says(tree, "tools/tide.py -> tide.py\n", {"1 edit in 1 file"}, kStart);
  }
  Workspace tree(program("Path(__file__).resolve().parents[1]",
                         "import subprocess\nsubprocess.check_call(['test', '-d', 'data'], cwd=ROOT)\n"));
  expect_move_says(tree, "tools/tide.py -> tools/ebb/tide.py\n", {"parents[2]"}, kStart);
}

TEST(ClimbShapes, a_program_that_has_modules_looked_up_in_a_folder_above) {
  const std::string kAdd = "import sys\nsys.path.insert(0, ";
  for (const char* folder : {"os.path.dirname(os.path.dirname(os.path.abspath(__file__)))", "str(ROOT)"}) {
    Files files = program("Path(__file__).resolve().parents[1]",
                          kAdd + folder + ")\nfrom sea.level import x\nassert x == 1\n");
    files.push_back({"sea/level.py", "x = 1\n"});
    files.push_back({"setup.py", ""});
    Workspace tree(files);
    expect_move_says(tree, "tools/tide.py -> tools/ebb/tide.py\n", {"1 edit in 1 file"}, kStart);
    expect_move_says(tree, "tools/tide.py -> tide.py\n", {"1 edit in 1 file"}, kStart);
  }
}

TEST(ClimbShapes, libraries_of_paths_by_other_names) {
  Workspace tree({{"tools/tide.py",
                   "import os.path as osp\nfrom os.path import join, dirname as folder_of\n"
                   "T = osp.join(osp.dirname(osp.abspath(__file__)), '..', 'data')\n"
                   "with open(osp.join(T, 'low.txt')) as f: f.read()\n"
                   "with open(join(T, 'high.txt')) as f: f.read()\n"},
                  {"data/low.txt", "1\n"},
                  {"data/high.txt", "1\n"}});
  expect_move_says(tree, "tools/tide.py -> tools/ebb/tide.py\n", {"'../..'"}, kStart);
  expect_move_says(tree, "data/low.txt -> data/levels/low.txt\n", {"'levels/low.txt'"}, kStart);
  expect_move_says(tree, "data/high.txt -> data/levels/high.txt\n", {"'levels/high.txt'"}, kStart);
}

TEST(ClimbShapes, a_name_beside_stays_a_name) {
  Workspace tree({{"tools/tide.py",
                   "from pathlib import Path\n"
                   "assert (Path(__file__).with_name('data') / 'low.txt').is_file()\n"},
                  {"tools/data/low.txt", "1\n"}});
  expect_move_says(tree, "tools/data -> tools/tables\n", {"with_name('tables')"}, kStart);
  expect_refusal(tree, "tools/data -> tables\n", {"tools/data/low.txt"});
}

TEST(ClimbShapes, packages_of_data_that_are_no_more_than_folders) {
  Workspace tree({{"tide/__init__.py", ""},
                  {"tide/levels.py",
                   "from importlib import resources\n"
                   "assert resources.files('tide.tables').joinpath('low.json').is_file()\n"},
                  {"tide/tables/low.json", "1\n"},
                  {"start.py", "import tide.levels\n"}});
  expect_move_says(tree, "tide/tables -> tide/data\n", {"files('tide.data')"}, "python3 start.py");
  expect_move_says(tree, "tide/tables/low.json -> tide/tables/ebb.json\n", {"joinpath('ebb.json')"},
                   "python3 start.py");
}

TEST(ClimbShapes, command_lines_in_strings) {
  Workspace tree(
      {{"start.py",
        "import os, subprocess, sys\n"
        "assert os.system('python3 tools/fill.py --table data/low.txt') == 0\n"
        "subprocess.check_call('sh tools/fill.sh data/low.txt', shell=True)\n"},
       {"start.c",
        "#include <stdlib.h>\nint main(void) { return system(\"sh tools/fill.sh data/low.txt\"); }\n"},
       {"tools/fill.py", "import sys\nassert open(sys.argv[2]).read()\n"},
       {"tools/fill.sh", "cat \"$1\"\n"},
       {"data/low.txt", "1\n"}});
  const char* const start = "python3 start.py && gcc -o s start.c && ./s && rm s";
  expect_move_says(
      tree, "tools -> scripts\n",
      {"'python3 scripts/fill.py --table data/low.txt'", "system(\"sh scripts/fill.sh data/low.txt\")"},
      start);
  expect_move_says(tree, "data/low.txt -> low.txt\n",
                   {"'python3 tools/fill.py --table low.txt'", "system(\"sh tools/fill.sh low.txt\")"},
                   start);
}

TEST(ClimbShapes, modules_that_settings_and_commands_name) {
  Workspace tree(
      {{"run.sh", "#!/bin/sh\ncd \"$(dirname \"$0\")\" && exec python3 -m tide \"$@\"\n"},
       {"tide/__main__.py",
        "import configparser, importlib\nc = configparser.ConfigParser()\nassert c.read('conf/tide.ini')\n"
        "importlib.import_module(c['tide']['handler'])\n"},
       {"tide/__init__.py", ""},
       {"tide/core/__init__.py", ""},
       {"tide/core/levels.py", "LOW = 1\n"},
       {"conf/tide.ini", "[tide]\nhandler = tide.core.levels\n"}});
  expect_move_says(tree, "tide/core -> tide/base\n", {"handler = tide.base.levels"}, "sh run.sh");
  expect_move_says(tree, "tide -> gauge\n", {"python3 -m gauge", "handler = gauge.core.levels"}, "sh run.sh");
  expect_refusal(tree, "tide/__main__.py -> tide/start.py\n", {"run.sh:2", "tide/__main__.py"});
  expect_refusal(tree, "run.sh -> tools/run.sh\n", {"run.sh:2"});
}

TEST(ClimbShapes, scripts_that_climb_from_their_own_folder) {
  struct Case {
    const char *root, *wanted;
  };
  for (const Case& one : std::initializer_list<Case>{
           {"HERE=$(cd \"$(dirname \"$0\")\" && pwd)\nROOT=$(dirname \"$HERE\")\n",
            "ROOT=$(dirname \"$(dirname \"$HERE\")\")"},
           {"ROOT=$(cd \"$(dirname \"$0\")/..\" && pwd)\n", "/../..\" && pwd)"},
           {"HERE=$(dirname \"$(realpath \"$0\")\")\nROOT=$(realpath \"$HERE/..\")\n", "\"$HERE/../..\""},
           {"SELF=$(readlink -f \"$0\")\nexport HERE=\"${SELF%/*}\"\nROOT=$(dirname \"$HERE\")\n",
            "ROOT=$(dirname \"$(dirname \"$HERE\")\")"},
           {"HERE=`dirname $0`\nROOT=`cd $HERE/.. && pwd`\n", "cd $HERE/../.. &&"}}) {
    Workspace tree({{"tools/sum.sh", "#!/bin/sh\nset -e\n" + std::string(one.root) +
                                         "cat \"$ROOT/data/low.txt\"\ncd \"$ROOT\"\ncat data/high.txt\n"},
                    {"data/low.txt", "1\n"},
                    {"data/high.txt", "2\n"}});
    const char* const start = "cd / && sh $(find $OLDPWD -name sum.sh)";
    expect_move_says(tree, "tools/sum.sh -> tools/all/sum.sh\n", {one.wanted, "1 edit in 1 file"}, start);
    expect_move_says(tree, "data -> tables\n", {"\"$ROOT/tables/low.txt\"", "cat tables/high.txt"}, start);
  }
}

TEST(ClimbShapes, folders_that_a_script_hands_on_by_variables) {
  Workspace tree(
      {{"sum.sh",
        "#!/bin/sh\nset -e\nHERE=$(dirname \"$(readlink -f \"$0\")\")\nexport PAGES=\"$HERE/web\" LANG=C\n"
        "(cd \"$PAGES/css\" && cat base.css)\n"},
       {"web/css/base.css", "p {}\n"}});
  const char* const start = "cd / && sh $OLDPWD/sum.sh";
  expect_move_says(tree, "web -> site\n", {"PAGES=\"$HERE/site\""}, start);
  expect_move_says(tree, "web/css -> web/styles\n", {"\"$PAGES/styles\""}, start);
  expect_move_says(tree, "web/css/base.css -> web/css/plain.css\n", {"cat plain.css"}, start);
}

TEST(ClimbShapes, names_in_lists_that_loops_join) {
  Workspace tree(
      {{"tools/check.py",
        "import os\nfrom pathlib import Path\nHERE = Path(__file__).parent\nPARTS = ['lib', 'web']\n"
        "for part in PARTS:\n    open(os.path.join(HERE, '..', part, 'Kbuild'))\n"
        "for name in ('low', 'high'):\n    with open(HERE.parent / 'data' / f'{name}.txt') as f:\n"
        "        print(f.read())\n"
        "tables = [(HERE / 'tables' / n).read_text() for n in ['a.csv', 'b.csv']]\n"},
       {"lib/Kbuild", ""},
       {"web/Kbuild", ""},
       {"data/low.txt", "1\n"},
       {"data/high.txt", "2\n"},
       {"tools/tables/a.csv", "1\n"},
       {"tools/tables/b.csv", "2\n"}});
  const std::string run = "P=$PWD; cd / && python3 $(find $P -name check.py)";
  expect_move_says(tree, "lib -> core\n", {"PARTS = ['core', 'web']"}, run);
  expect_move_says(tree, "data/low.txt -> data/ebb.txt\n", {"('ebb', 'high')"}, run);
  expect_move_says(tree, "tools/tables/a.csv -> tools/tables/c.csv\n", {"['c.csv', 'b.csv']"}, run);
  expect_move_keeps_build(tree, "tools/tables -> tables\n", run);
  expect_move_keeps_build(tree, "tools/check.py -> check.py\n", run);
}

}  // namespace
}  // namespace yc::test
