// Shapes of Python projects as they are met in the wild: each is moved, run by Python, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const std::string kRun = "python3 -B main.py";

void expect_lines(const Files& files, const std::string& sheet, const std::vector<std::string>& lines,
                  const std::string& build = kRun) {
  expect_move_says(Workspace(files), sheet, lines, build);
}

Files flat() {
  return {
      {"main.py",
       "import os, gauges, tables as t\nfrom readings import (\n    load,  # from disk\n    "
       "save,\n)\n\n\ndef "
       "show():\n    import tables\n    return tables.highest(), f\"{gauges.level()}\"\n\n\nif __name__ == "
       "\"__main__\":\n    print(gauges.level(), t.highest(), load(), save(), show(), os.sep)\n"},
      {"gauges.py", "import tables\n\n\ndef level():\n    return tables.highest()\n"},
      {"tables.py", "def highest():\n    return 3\n"},
      {"readings.py",
       "from gauges import level\n\n\ndef load():\n    return level()\n\n\ndef save():\n    pass\n"}};
}

TEST(PythonShapes, flat_modules_are_sorted_into_two_packages_at_once) {
  expect_lines(
      flat(),
      "gauges.py -> intake/gauges.py\ntables.py -> store/tables.py\nreadings.py -> intake/readings.py\n",
      {"from intake import gauges\n", "import os, store.tables as t", "from intake.readings import (",
       "    from store import tables", "from store import tables", "from intake.gauges import level"});
}

TEST(PythonShapes, a_renamed_module_keeps_the_name_it_has_in_code) {
  expect_lines(flat(), "gauges.py -> poles.py\n",
               {"import os, poles as gauges, tables as t", "from poles import level"});
}

Files package() {
  return {
      {"main.py",
       "import pole.tide\nimport pole.units as u\nfrom pole import chart, tide as tt\nimport importlib\n"
       "print(pole.tide.level(), u.metre, chart.line, tt.level(), "
       "importlib.import_module(\"pole.chart\").line)\n"},
      {"pole/__init__.py",
       "from .units import metre\nfrom . import chart\n__all__ = [\"chart\", \"metre\"]\n"},
      {"pole/tide.py",
       "from . import units\nfrom .units import metre as m\n\n\ndef level():\n    return units.metre * m\n"},
      {"pole/units.py", "metre = 100\n"},
      {"pole/chart.py", "from pole.tide import level\nline = level()\n"}};
}

TEST(PythonShapes, relative_imports_stay_relative_and_absolute_ones_absolute) {
  expect_lines(
      package(), "pole/tide.py -> pole/water/tide.py\n",
      {"New files\n  pole/water/__init__.py", "import pole.water.tide", "print(pole.water.tide.level()",
       "from pole.water import tide as tt\n", "from pole import chart", "from .. import units",
       "from ..units import metre as m", "from pole.water.tide import level"});
}

TEST(PythonShapes, a_module_that_leaves_all_packages_has_no_relative_imports) {
  Files files = package();
  files[1].second = "";
  files[4].second = "from .tide import level\nline = level()\n";
  expect_lines(files, "pole/chart.py -> chart.py\npole/tide.py -> tide.py\n",
               {"import tide\n", "print(tide.level()", "from tide import level", "from pole import units\n",
                "from pole.units import metre as m", "import chart\n", "import_module(\"chart\")",
                "7 edits in 3 files"});
}

TEST(PythonShapes, packages_that_an_import_brought_along_are_still_brought) {
  Files files = {
      {"main.py", "import a\nimport a.b.y\n\n\ndef f():\n    return a.b.y.w\n\n\nprint(f(), a.b.mark)\n"},
      {"a/__init__.py", ""},
      {"a/b/__init__.py", "mark = 1\n"},
      {"a/b/y.py", "w = 2\n"}};
  expect_lines(files, "a/b/y.py -> a/c/y.py\n", {"import a.b, a.c.y\n", "return a.c.y.w"});
  expect_lines(files, "a/b/y.py -> y.py\n", {"import a.b, y\n", "return y.w"});
  files[0].second = "import a.b.y\nimport a.b\nprint(a.b.y.w, a.b.mark)\n";
  expect_lines(files, "a/b/y.py -> y.py\n", {"import y\n", "print(y.w, a.b.mark)"});
}

TEST(PythonShapes, modules_that_are_started_by_their_names) {
  Files files = package();
  files.push_back(
      {"Makefile",
       "PYTHON = python3\nall:\n\t$(PYTHON) -B main.py && python3 -m pole.units && make -m tide\n"});
  files.push_back({"ci.yaml", "run: python -m pole.units  # keep\n"});
  files.push_back(
      {"docs/api.rst",
       ".. automodule:: pole.units\n   :members:\n\nSee :func:`~pole.units.metre` and pole.units.\n"});
  expect_lines(files, "pole/units.py -> pole/base/units.py\n",
               {"python3 -m pole.base.units && make -m tide", "run: python -m pole.base.units  # keep",
                ".. automodule:: pole.base.units", ":func:`~pole.base.units.metre` and pole.units."});
}

TEST(PythonShapes, folders_that_a_program_adds_by_itself) {
  Files files = {
      {"app/main.py",
       "import os, sys\nsys.path.insert(0, os.path.join(os.path.dirname(__file__), \"..\", \"lib\"))\nimport "
       "tide\nfrom level import y\nprint(tide.x, y)\n"},
      {"lib/tide.py", "import level\nx = level.y\n"},
      {"lib/level.py", "y = 1\n"}};
  const std::string build = "python3 -B app/main.py";
  expect_lines(files, "lib -> libs\n", {"\"..\", \"libs\"", "1 edit in 1 file"}, build);
  expect_lines(files, "lib/tide.py -> lib/water/tide.py\n", {"from water import tide"}, build);
  expect_lines(files, "lib/level.py -> lib/marks.py\n", {"from marks import y", "import marks as level"},
               build);
}

TEST(PythonShapes, a_package_is_renamed_and_nested) {
  expect_lines(package(), "pole -> gauge\n",
               {"import gauge.tide", "print(gauge.tide.level()", "import gauge.units as u",
                "from gauge import chart", "import_module(\"gauge.chart\")", "from gauge.tide import level"});
  expect_lines(package(), "pole -> lib/pole\n", {"import lib.pole.tide", "from lib.pole.tide import level"});
}

TEST(PythonShapes, a_name_that_code_uses_otherwise_is_let_alone) {
  Files files = package();
  files[0].second +=
      "\n\ndef other(pole):\n    return pole.tide\n\n\nclass C:\n    tide = 1\n\n\nprint(other(C))\n";
  expect_lines(files, "pole/tide.py -> pole/water.py\n", {"import pole.water"});
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "pole/tide.py", "pole/water.py"}).status, 0);
  EXPECT_NE(tree.read("main.py").find("return pole.tide\n"), std::string::npos);
}

TEST(PythonShapes, a_source_layout_that_settings_tell) {
  Files files = {{"pyproject.toml",
                  "[project]\nname = \"pole\"\n[project.scripts]\npole = "
                  "\"pole.app:main\"\n[tool.setuptools.packages.find]\n"
                  "where = [\"src\"]\n[tool.setuptools.package-data]\npole = "
                  "[\"tables/*.csv\"]\n[tool.pytest.ini_options]\n"
                  "pythonpath = [\"src\"]\n[[tool.mypy.overrides]]\nmodule = \"pole.units.*\"\n"},
                 {"src/pole/__init__.py", ""},
                 {"src/pole/app.py", "from pole.units import metre\n\n\ndef main():\n    return metre\n"},
                 {"src/pole/units.py", "metre = 3\n"},
                 {"src/pole/tables/high.csv", "1\n"},
                 {"tests/test_app.py", "import pole.app\nprint(pole.app.main())\n"}};
  expect_lines(
      files,
      "src -> lib\nsrc/pole/units.py -> lib/pole/core/units.py\nsrc/pole/app.py -> lib/pole/program.py\n"
      "src/pole/tables -> lib/pole/data\n",
      {"pole = \"pole.program:main\"", "where = [\"lib\"]", "pole = [\"data/*.csv\"]",
       "pythonpath = [\"lib\"]", "module = \"pole.core.units.*\"", "from pole.core.units import metre",
       "import pole.program"},
      "PYTHONPATH=$(sed -n 's/pythonpath = .\"\\(.*\\)\"./\\1/p' pyproject.toml) python3 -B "
      "tests/test_app.py");
}

TEST(PythonShapes, setup_calls_and_sections_of_ini_files) {
  Files files = package();
  files.push_back({"setup.py",
                   "from setuptools import setup\nsetup(name='pole', packages=['pole'], py_modules=['main'], "
                   "entry_points={'console_scripts': ['pole = pole.chart:line']})\n"});
  files.push_back(
      {"setup.cfg",
       "[mypy-pole.units]\nignore_errors = true\n[options.entry_points]\nconsole_scripts =\n    p = "
       "pole.tide:level\n"});
  expect_lines(
      files,
      "pole/chart.py -> pole/draw.py\npole/units.py -> pole/base/units.py\npole/tide.py -> pole/water.py\n",
      {"['pole = pole.draw:line']", "[mypy-pole.base.units]", "    p = pole.water:level"});
}

TEST(PythonShapes, new_packages_are_listed_where_packages_are) {
  Files files = package();
  files.push_back({"setup.py", "from setuptools import setup\nsetup(name='pole', packages=['pole'])\n"});
  files.push_back({"setup.cfg", "[options]\npackages =\n    pole\n"});
  files.push_back({"pyproject.toml", "[tool.setuptools]\npackages = [\"pole\"]\n"});
  expect_lines(files, "pole/tide.py -> pole/water/tide.py\npole/units.py -> pole/base/units.py\n",
               {"packages=['pole', 'pole.base', 'pole.water']", "pole.base\n",
                "[\"pole\", \"pole.base\", \"pole.water\"]"});
}

TEST(PythonShapes, a_program_that_leaves_what_it_finds_beside_it_is_refused) {
  Outcome refused = expect_refusal(Workspace(flat()), "main.py -> app/main.py\n", {"main.py:1:12", "gauges"});
  EXPECT_NE(refused.err.find("the folder that the program is started in"), std::string::npos) << refused.told;
}

TEST(PythonShapes, a_program_goes_with_what_it_finds_beside_it) {
  expect_lines(
      flat(),
      "main.py -> app/main.py\ngauges.py -> app/gauges.py\ntables.py -> app/tables.py\nreadings.py -> "
      "app/readings.py\n",
      {"0 edits"}, "cd $(dirname $(find . -name main.py)) && python3 -B main.py");
}

TEST(PythonShapes, a_module_that_would_be_asked_before_it_is_there) {
  Files files = {{"main.py", "import pole\nprint(pole.level)\n"},
                 {"pole/__init__.py", "from .tide import level\n"},
                 {"pole/tide.py", "from .units import metre\nlevel = metre\n"},
                 {"pole/units.py", "metre = 1\n"}};
  expect_refusal(Workspace(files), "pole/tide.py -> tide.py\n",
                 {"pole/__init__.py", "\"level\"", "imported first"});
  Workspace tree(files);
  EXPECT_EQ(tree.run({"move", "pole/tide.py", "tide.py", "--accept-unseen"}).status, 0);
}

TEST(PythonShapes, a_module_that_would_be_used_before_it_is_whole) {
  Files files = {{"main.py", "import pole\nprint(pole.roles.sign())\n"},
                 {"pole/__init__.py", "from . import roles\n"},
                 {"pole/roles.py", "from pole import marks\nsign = marks.sign\n"},
                 {"pole/marks.py", "from pole import roles\n\n\ndef sign():\n    return 1\n"}};
  expect_refusal(Workspace(files), "pole/marks.py -> marks.py\n", {"\"sign\"", "marks.py is imported first"});
  files[2].second = "from pole import marks\n\n\ndef sign():\n    return marks.sign()\n";
  expect_lines(files, "pole/marks.py -> marks.py\n", {"import marks\n"});
}

TEST(PythonShapes, a_folder_that_would_hide_a_module) {
  Files files = package();
  expect_refusal(Workspace(files), "pole/units.py -> pole/tide/units.py\n", {"pole/tide.py"});
}

TEST(PythonShapes, a_module_that_would_hide_the_standard_library) {
  Files files = flat();
  files[0].second = "import json\n" + files[0].second;
  files.push_back({"other.py", "import json\nprint(json.dumps([]))\n"});
  Outcome refused = Workspace(files).run({"move", "tables.py", "json.py"});
  EXPECT_EQ(refused.status, 3) << refused.told;
}

TEST(PythonShapes, plug_ins_that_are_imported_by_names_put_together) {
  Files files = {
      {"main.py",
       "import importlib\nfor n in ('a', 'b'):\n    print(importlib.import_module('plug.' + n).x)\n"},
      {"walk.py", "import pkgutil, plug\nprint([m.name for m in pkgutil.iter_modules(plug.__path__)])\n"},
      {"plug/__init__.py", ""},
      {"plug/a.py", "x = 1\n"},
      {"plug/b.py", "x = 2\n"}};
  expect_refusal(Workspace(files), "plug/a.py -> plug/c.py\n", {"main.py:3:", "only known when it runs"});
  expect_lines(files, "plug -> plugins\n", {"import_module('plugins.' + n)", "plug"}, kRun);
  files.erase(files.begin());
  expect_refusal(Workspace(files), "plug/a.py -> plug/c.py\n", {"walk.py:2:"});
}

TEST(PythonShapes, doubles_of_tests_and_strings_that_name_modules) {
  Files files = package();
  files.push_back(
      {"test_tide.py",
       "from unittest import mock\nimport pole.tide\nwith mock.patch('pole.tide.level', lambda: 7):\n    "
       "print(pole.tide.level())\nHANDLERS = {'class': 'pole.chart.line', 'path': 'a.b'}\n"});
  expect_lines(files, "pole/tide.py -> pole/water.py\npole/chart.py -> pole/draw.py\n",
               {"mock.patch('pole.water.level'", "'pole.draw.line', 'path': 'a.b'"},
               "python3 -B test_tide.py");
}

TEST(PythonShapes, code_that_another_python_is_handed) {
  Files files = package();
  files[0].second +=
      "import subprocess, sys\ncode = b\"\"\"\nimport os, pole.tide\nfrom pole.units import "
      "metre\nprint(metre)\n\"\"\"\n"
      "subprocess.run([sys.executable, '-Bc', code], check=True)\nsubprocess.run([sys.executable, '-Bc', "
      "'import "
      "pole.units'], check=True)\n";
  expect_lines(files, "pole/units.py -> pole/base/units.py\npole/tide.py -> pole/base/tide.py\n",
               {"import os, pole.base.tide", "from pole.base.units import metre   (likely)",
                "'import pole.base.units'"});
}

TEST(PythonShapes, sessions_that_doctest_runs) {
  Files files = package();
  files.push_back(
      {"test_doc.py",
       "import doctest\n\n\ndef metre():\n    \"\"\"Gives the unit.\n\n    >>> import pole.units\n    >>> "
       "pole.units.metre == pole.units.metre\n    True\n    >>> "
       "__import__('pole.units').__name__\n    'pole'\n    \"\"\"\n\n\n"
       "assert doctest.testmod().failed == 0\n"});
  expect_lines(files, "pole/units.py -> pole/base/units.py\n",
               {">>> import pole.base.units   (likely)", "pole.base.units.metre == pole.base.units.metre"},
               "python3 -B test_doc.py");
}

TEST(PythonShapes, stubs_go_with_their_modules) {
  Files files = package();
  files.push_back({"pole/units.pyi", "metre: int\n"});
  Workspace tree(files);
  ASSERT_EQ(tree.run({"move", "pole/units.py", "pole/base/units.py"}).status, 0);
  EXPECT_TRUE(tree.exists("pole/base/units.pyi"));
}

TEST(PythonShapes, folders_without_an_init_stay_so) {
  Files files = {
      {"main.py", "import app.lib.tide\nfrom app.lib import level\nprint(app.lib.tide.x, level.y)\n"},
      {"app/lib/tide.py", "from . import level\nx = level.y\n"},
      {"app/lib/level.py", "y = 1\n"}};
  Outcome moved = expect_move_keeps_build(
      Workspace(files),
      "app/lib/tide.py -> app/water/tide.py\napp/lib/level.py -> app/water/marks/level.py\n", kRun);
  EXPECT_EQ(moved.out.find("New files"), std::string::npos) << moved.told;
}

TEST(PythonShapes, files_that_a_pattern_finds) {
  const char* const kLevels = "print(sorted(os.path.basename(str(one)) for one in found))\n";
  for (const std::string pattern :
       {"glob.glob(os.path.join(os.path.dirname(__file__), 'tides', '*.csv'))", "glob.glob('tides/*.csv')",
        "(Path(__file__).parent / 'tides').glob('*.csv')",
        "Path(__file__).parent.joinpath('tides').rglob('*.csv')"}) {
    Workspace tree(
        Files{{"main.py", "import glob, os\nfrom pathlib import Path\nfound = " + pattern + "\n" + kLevels},
              {"tides/low.csv", "1\n"},
              {"tides/high.csv", "2\n"},
              {"notes/read.txt", "3\n"}});
    expect_move_keeps_build(tree, "tides/ -> data/tides/\n", kRun);
    // One of two would not be found any more.
    Outcome refused = tree.run({"move", "tides/low.csv", "notes/low.csv"});
    EXPECT_EQ(refused.status, 3) << pattern << refused.told;
  }
}

TEST(PythonShapes, pattern_goes_where_all_that_it_finds_goes) {
  Files files = {{"main.py",
                  "import glob, os\nHERE = os.path.dirname(os.path.abspath(__file__))\n"
                  "print(len(glob.glob(os.path.join(HERE, 'tides', '*.csv'))))\n"},
                 {"tides/low.csv", "1\n"},
                 {"tides/read.txt", "3\n"}};
  expect_lines(files, "tides/low.csv -> levels/low.csv\n", {"os.path.join(HERE, 'levels', '*.csv')"});
  expect_lines(files, "main.py -> tools/main.py\n", {"os.path.join(HERE, '../tides', '*.csv')"},
               "python3 -B $(find . -name main.py)");
}

TEST(PythonShapes, a_name_counted_from_a_package_that_is_named_beside) {
  Files files = {{"main.py",
                  "import importlib\nprint(importlib.import_module('.tide', 'pole').level,\n"
                  "      importlib.import_module('..units', package='pole.chart').metre)\n"},
                 {"pole/__init__.py", ""},
                 {"pole/chart/__init__.py", ""},
                 {"pole/units.py", "metre = 1\n"},
                 {"pole/tide.py", "level = 1\n"}};
  expect_lines(files, "pole/ -> mast/\n",
               {"import_module('.tide', 'mast')", "import_module('..units', package='mast.chart')"});
  expect_lines(files, "pole/tide.py -> pole/water/tide.py\n", {"'pole')"});
  expect_lines(files, "main.py -> pole/main.py\n", {"Done and verified"},
               "python3 -B -c 'import sys; sys.path.insert(0, \".\")' && PYTHONPATH=. python3 -B $(find . "
               "-name main.py)");
}

// What pytest gives a test by its place. Each move that is refused would end in an error of pytest's.
TEST(PythonShapes, tests_keep_what_is_above_them) {
  Workspace tree(
      Files{{"tests/unit/conftest.py", "import pytest\n\n\n@pytest.fixture\ndef level():\n    return 1\n"},
            {"tests/unit/test_level.py", "def test_level(level):\n    assert level == 1\n"},
            {"tests/unit/test_pole.py", "def test_pole():\n    levels = 1\n"},
            {"tests/test_gauge.py", "def test_gauge():\n    pass\n"}});
  expect_refusal(tree, "tests/unit/test_level.py -> tests/test_level.py\n",
                 {"tests/unit/test_level.py: would lose the fixture \"level\" of tests/unit/conftest.py at "
                  "tests/test_level.py"});
  expect_refusal(tree, "tests/unit/conftest.py -> tests/other/conftest.py\n",
                 {"would lose the fixture \"level\" of tests/other/conftest.py"});
  expect_move_keeps_build(tree, "tests/unit/test_pole.py -> tests/test_pole.py\n", "true");
  expect_move_keeps_build(tree, "tests/unit/conftest.py -> tests/conftest.py\n", "true");
  expect_move_keeps_build(tree, "tests/unit/ -> tests/core/\n", "true");
  tree.write("tests/conftest.py",
             "import pytest\n\n\n@pytest.fixture(autouse=True)\ndef tide():\n    pass\n");
  expect_refusal(tree, "tests/test_gauge.py -> checks/test_gauge.py\n",
                 {"would lose tests/conftest.py at checks/test_gauge.py"});
}

TEST(PythonShapes, tests_outside_of_packages_have_names_of_their_own) {
  Workspace tree(Files{{"tests/a/test_level.py", "def test_level():\n    pass\n"},
                       {"tests/b/test_pole.py", "def test_pole():\n    pass\n"},
                       {"tests/c/__init__.py", ""}});
  expect_refusal(tree, "tests/b/test_pole.py -> tests/b/test_level.py\n",
                 {"tests/b/test_pole.py: would be called like tests/a/test_level.py"});
  expect_move_keeps_build(tree, "tests/b/test_pole.py -> tests/c/test_level.py\n", "true");
  tree.write("pytest.ini", "[pytest]\naddopts = --import-mode=importlib\n");
  expect_move_keeps_build(tree, "tests/b/test_pole.py -> tests/b/test_level.py\n", "true");
}

TEST(PythonShapes, applications_of_django_and_their_templates) {
  Workspace tree(Files{
      {"site1/__init__.py", ""},
      {"site1/settings.py",
       "INSTALLED_APPS = [\n    \"django.contrib.admin\",\n    \"gauges\",\n"
       "    \"poles.apps.Poles\",\n]\nOTHERS = [\"gauges\"]\n"},
      {"gauges/__init__.py", ""},
      {"gauges/views.py", "def show(render, request):\n    return render(request, \"gauges/list.html\")\n"},
      {"gauges/templates/gauges/list.html", "<p>\n"},
      {"poles/__init__.py", ""},
      {"poles/apps.py", "class Poles:\n    pass\n"}});
  expect_move_says(tree, "gauges/templates/gauges/list.html -> gauges/templates/gauges/all.html\n",
                   {"render(request, \"gauges/all.html\")"}, "true");
  expect_refusal(tree, "gauges/templates/gauges/list.html -> pages/list.html\n", {"gauges/views.py:2"});
  Outcome moved = expect_move_says(tree, "gauges/ -> stations/\npoles/ -> masts/\n",
                                   {"+     \"stations\",", "+     \"masts.apps.Poles\","}, "true");
  EXPECT_EQ(moved.out.find("stations/list.html"), std::string::npos) << moved.told;
  EXPECT_EQ(moved.out.find("OTHERS"), std::string::npos) << moved.told;
}

}  // namespace
}  // namespace yc::test
