// Plans for trees of Python, a table: what moves, and every edit that follows.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;

// A package `tide` with modules `level` and `water`, and what is given.
TreeFiles package(const TreeFiles& more) {
  TreeFiles out = {{"tide/__init__.py", ""},
                   {"tide/level.py", "DEPTH = 7\ndef load(): return DEPTH\n"},
                   {"tide/water.py", "SALT = 1\n"},
                   {"tide/sea/__init__.py", ""}};
  out.insert(out.end(), more.begin(), more.end());
  return out;
}

TEST(PythonPlans, imports) {
  TreeMoves move = {{"tide/level.py", "tide/sea/level.py"}};
  expect_edits({
      {"by its whole name, and the name is used whole",
       package({{"main.py", "import tide.level\nprint(tide.level.load())\n"}}),
       move,
       {"main.py: tide.level -> tide.sea.level", "main.py: tide.level -> tide.sea.level"}},
      {"under another name",
       package({{"main.py", "import tide.level as l\nprint(l.load())\n"}}),
       move,
       {"main.py: tide.level -> tide.sea.level"}},
      {"from its package",
       package({{"main.py", "from tide import level\nprint(level.load())\n"}}),
       move,
       {"main.py: tide -> tide.sea"}},
      {"names from it",
       package({{"main.py", "from tide.level import load, DEPTH as d\nload()\n"}}),
       move,
       {"main.py: tide.level -> tide.sea.level"}},
      {"relative ones stay relative",
       package({{"tide/use.py", "from . import water\nfrom .level import load\n"}}),
       move,
       {"tide/use.py: .level -> .sea.level"}},
      {"of the module that moves itself",
       {{"tide/__init__.py", ""},
        {"tide/level.py", "from .water import SALT\nfrom tide.water import SALT as S\n"},
        {"tide/water.py", "SALT = 1\n"},
        {"tide/sea/__init__.py", ""}},
       move,
       {"tide/level.py: .water -> ..water"}},
      {"inside a function, and for the type checker only",
       package({{"main.py",
                 "from typing import TYPE_CHECKING\nif TYPE_CHECKING:\n    from tide.level import load\n"
                 "def f():\n    from tide.level import DEPTH\n    return DEPTH\n"}}),
       move,
       {"main.py: tide.level -> tide.sea.level", "main.py: tide.level -> tide.sea.level"}},
  });
}

// What a star import asks for by name is still there when the module has gone elsewhere.
TEST(PythonPlans, names_that_a_package_exports) {
  auto exporting = [](const std::string& init) {
    return TreeFiles{{"tide/__init__.py", init},
                     {"tide/level.py", "def load(): return 7\n"},
                     {"tide/water.py", "SALT = 1\n"},
                     {"tide/sea/__init__.py", ""},
                     {"main.py", "from tide import *\nlevel.load()\n"}};
  };
  const std::string list = "__all__ = [\"level\", 'water']\n";
  expect_edits({
      {"a module goes to a package below",
       exporting(list),
       {{"tide/level.py", "tide/sea/level.py"}},
       {"tide/__init__.py:  -> from .sea import level\n"}},
      {"it gets another name",
       exporting(list),
       {{"tide/level.py", "tide/height.py"}},
       {"tide/__init__.py:  -> from . import height as level\n"}},
      {"it leaves the package",
       exporting(list),
       {{"tide/level.py", "gauges/level.py"}},
       {"tide/__init__.py:  -> from gauges import level\n"}},
      {"two at once",
       exporting(list),
       {{"tide/level.py", "tide/sea/level.py"}, {"tide/water.py", "tide/sea/water.py"}},
       {"tide/__init__.py:  -> from .sea import level\n", "tide/__init__.py:  -> from .sea import water\n"}},
      {"the last line has no end",
       exporting("__all__ = (\"level\",)"),
       {{"tide/level.py", "tide/sea/level.py"}},
       {"tide/__init__.py:  -> \nfrom .sea import level\n"}},
      {"an import that brings the name follows by itself",
       exporting("from . import level\n__all__ = [\"level\"]\n"),
       {{"tide/level.py", "tide/sea/level.py"}},
       {"tide/__init__.py: . -> .sea"}},
      {"a name that is none of a module",
       exporting("level = 7\n__all__ = [\"level\"]\n"),
       {{"tide/water.py", "tide/sea/water.py"}},
       {}},
      {"the package moves whole", exporting(list), {{"tide", "sea/tide"}}, {"main.py: tide -> sea.tide"}},
  });
}

TEST(PythonPlans, dotted_names_elsewhere) {
  TreeMoves move = {{"tide/level.py", "tide/sea/level.py"}};
  expect_edits({
      {"entry points",
       package({{"pyproject.toml",
                 "[project]\nname = \"tide\"\n[project.scripts]\ntide = \"tide.level:load\"\n"}}),
       move,
       {"pyproject.toml: tide.level -> tide.sea.level"}},
      {"a program by its module",
       package({{"run.sh", "#!/bin/sh\npython3 -m tide.level --quiet\n"}}),
       move,
       {"run.sh: tide.level -> tide.sea.level"}},
      {"asked for by a string",
       package({{"main.py", "import importlib\nm = importlib.import_module('tide.level')\n"}}),
       move,
       {"main.py: tide.level -> tide.sea.level"}},
      {"a session in a text",
       package({{"main.py", "\"\"\"\n>>> from tide import level\n>>> level.load()\n7\n\"\"\"\n"}}),
       move,
       {"main.py: tide -> tide.sea ?"}},
      {"a session in a text, and another name",
       package({{"main.py", "\"\"\"\n>>> from tide import level\n>>> level.load()\n7\n\"\"\"\n"}}),
       {{"tide/level.py", "tide/sea/height.py"}},
       {"main.py: tide -> tide.sea ?", "main.py: level -> height as level ?"}},
      {"code that another Python is handed",
       package({{"main.py", "CODE = '''\nfrom tide import level\nlevel.load()\n'''\n"}}),
       move,
       {"main.py: tide -> tide.sea ?"}},
      {"one of several that code takes from a package",
       package({{"main.py", "emit('from tide import level, water')\n"}}),
       move,
       {"main.py:  -> from tide.sea import level;  ?", "main.py: level,  ->  ?"}},
      {"the last of several, under another name",
       package({{"main.py", "emit('from tide import water, level as l')\n"}}),
       {{"tide/level.py", "tide/height.py"}},
       {"main.py: level as l -> height as l ?"}},
      {"several whose package goes along",
       package({{"main.py", "emit('from tide import water, level')\n"}}),
       {{"tide", "sea/tide"}},
       {"main.py: tide -> sea.tide ?"}},
      {"a module that shows how it is imported itself",
       {{"main.py", "import tide.water\n"},
        {"tide/__init__.py", ""},
        {"tide/water.py", ""},
        {"tide/level.py", "\"\"\"\n>>> import tide.level\n\"\"\"\n"}},
       {{"tide/level.py", "tide/sea/level.py"}},
       {"tide/level.py: tide.level -> tide.sea.level ?"}},
      {"a package that loads its own modules by name",
       {{"tide/__init__.py", ""},
        {"tide/sea/__init__.py",
         "import importlib\ndef get(n): return importlib.import_module('.' + n, 'tide.sea')\n"},
        {"tide/sea/salt.py", ""}},
       {{"tide/sea", "tide/ocean"}},
       {"tide/sea/__init__.py: tide.sea -> tide.ocean ?"}},
      {"data beside modules whose names are put together",
       package({{"main.py", "def get(name): return __import__('tide.' + name)\n"}, {"tide/table.csv", ""}}),
       {{"tide/table.csv", "data/table.csv"}},
       {}},
      {"a text that is asked whether it begins so",
       package({{"main.py", "def own(name): return name.startswith('tide.')\n"}}),
       move,
       {}},
      {"doubles of tests",
       package({{"test_a.py",
                 "from unittest import mock\n@mock.patch('tide.level.load')\ndef test_a(m): pass\n"}}),
       move,
       {"test_a.py: tide.level -> tide.sea.level"}},
  });
}

TEST(PythonPlans, paths_in_code) {
  TreeMoves move = {{"data", "assets/data"}};
  expect_edits({
      {"from the module's own folder",
       {{"main.py",
         "from pathlib import Path\nHERE = Path(__file__).parent\nt = (HERE / 'data' / "
         "'tide.csv').read_text()\n"},
        {"data/tide.csv", ""}},
       move,
       {"main.py: data -> assets/data"}},
      {"joined, with the file put together",
       {{"main.py",
         "import os\ndef f(n): return open(os.path.join(os.path.dirname(__file__), 'data', n + '.csv'))\n"},
        {"data/tide.csv", ""}},
       move,
       {"main.py: data -> assets/data"}},
      {"from where the program is started",
       {{"main.py", "print(open('data/tide.csv').read())\n"}, {"data/tide.csv", ""}},
       move,
       {"main.py: data/tide.csv -> assets/data/tide.csv ?"}},
      {"a head with something behind it",
       {{"main.py", "def f(n): return open('data/' + n)\n"}, {"data/tide.csv", ""}},
       move,
       {"main.py: data -> assets/data ?"}},
  });
}

TEST(PythonPlans, order_of_imports) {
  TreeFiles files = {{"tide/__init__.py", "from tide.use import run\n"},
                     {"tide/use.py", "from tide.sea.level import DEPTH\ndef run(): return DEPTH\n"},
                     {"tide/sea/__init__.py", ""},
                     {"tide/sea/level.py", "from tide.base import ZERO\nDEPTH = ZERO\n"},
                     {"tide/base.py", "ZERO = 0\n"}};
  // A folder that is no package of its own lies in one all the same, which is loaded first.
  EXPECT_THAT(edits(planned(files, {{"tide/sea", "tide/nested/sea"}})),
              ElementsAre("tide/use.py: tide.sea.level -> tide.nested.sea.level"));
  // Out of it, it is what begins, and asks for a package that asks for it.
  EXPECT_THAT(reasons(planned(files, {{"tide/sea/level.py", "level.py"}})),
              ElementsAre("import-order tide/use.py"));
  files[1].second = "from tide.sea.level import *\ndef run(): return DEPTH\n";
  EXPECT_THAT(reasons(planned(files, {{"tide/sea/level.py", "level.py"}})),
              ElementsAre("import-order tide/use.py"));
  files[1].second = "from tide.sea.level import __doc__\ndef run(): return 0\n";
  EXPECT_THAT(edits(planned(files, {{"tide/sea/level.py", "level.py"}})),
              ElementsAre("tide/use.py: tide.sea.level -> level"));
}

TEST(PythonPlans, a_folder_that_would_hide_a_module_of_the_standard_library) {
  EXPECT_THAT(reasons(planned({{"main.py", "import logging\nimport levels\n"}, {"levels.py", ""}},
                              {{"levels.py", "logging.py"}})),
              ElementsAre("drift main.py"));
}

TEST(PythonPlans, names_that_a_package_gets_by_an_import_of_its_module) {
  TreeFiles files = {
      {"pole/__init__.py",
       "from .tide import *\nfrom pole.level import mean\n\ntide._setup()\nprint(level.mean, mean)\n"},
      {"pole/tide.py", "def _setup():\n    pass\n"},
      {"pole/level.py", "mean = 1\n"},
      {"pole/sea/__init__.py", ""}};
  EXPECT_THAT(
      edits(planned(files, {{"pole/tide.py", "pole/sea/tide.py"}})),
      testing::ElementsAre("pole/__init__.py: .tide -> .sea.tide", "pole/__init__.py: tide -> sea.tide"));
  EXPECT_THAT(edits(planned(files, {{"pole/level.py", "pole/height.py"}})),
              testing::ElementsAre("pole/__init__.py: pole.level -> pole.height",
                                   "pole/__init__.py: level -> height"));
  // Elsewhere no import would bind it.
  EXPECT_THAT(reasons(planned(files, {{"pole/tide.py", "other/tide.py"}})),
              testing::Contains("lost pole/__init__.py"));
  // The name alone counts, too.
  files[0].second = "from .tide import *\n\ndel tide\nprint(dict(tide=1), mean.tide)\n";
  EXPECT_THAT(
      edits(planned(files, {{"pole/tide.py", "pole/sea/tide.py"}})),
      testing::ElementsAre("pole/__init__.py: .tide -> .sea.tide", "pole/__init__.py: tide -> sea.tide"));
  EXPECT_THAT(reasons(planned(files, {{"pole/tide.py", "other/tide.py"}})),
              testing::Contains("lost pole/__init__.py"));
  // What else is called so is no module.
  files[0].second =
      "from .tide import *\n\nclass Pole:\n    def tide(self, tide=1):\n        return [tide for tide in "
      "self.tide()]\n\n"
      "    tide: int = 0\n\nf = lambda tide: tide\ng(tide=3)\n";
  EXPECT_THAT(edits(planned(files, {{"pole/tide.py", "pole/sea/tide.py"}})),
              testing::ElementsAre("pole/__init__.py: .tide -> .sea.tide"));
  files[0].second = "from .tide import *\nALL = [tide, 1]\n";
  EXPECT_THAT(
      edits(planned(files, {{"pole/tide.py", "pole/sea/tide.py"}})),
      testing::ElementsAre("pole/__init__.py: .tide -> .sea.tide", "pole/__init__.py: tide -> sea.tide"));
  // A name that the package binds itself is its own.
  files[0].second = "from .tide import *\ntide = 1\nprint(tide.real)\n";
  EXPECT_THAT(edits(planned(files, {{"pole/tide.py", "pole/sea/tide.py"}})),
              testing::ElementsAre("pole/__init__.py: .tide -> .sea.tide"));
}

TEST(PythonPlans, data_of_a_package_that_is_renamed) {
  for (const std::string form :
       {"{\"pole\": [\"tides.csv\"]}", "{'pole': ['tides.csv']}", "dict(pole=[\"tides.csv\"])"}) {
    SCOPED_TRACE(form);
    TreeFiles files = {{"setup.py",
                        "from setuptools import setup\nsetup(name=\"pole\", packages=[\"pole\"], "
                        "package_data=" +
                            form + ")\n"},
                       {"pole/__init__.py", ""},
                       {"pole/tides.csv", ""}};
    EXPECT_THAT(edits(planned(files, {{"pole", "mast"}})),
                testing::ElementsAre("setup.py: pole -> mast", "setup.py: pole -> mast"));
  }
  EXPECT_THAT(
      edits(planned({{"setup.cfg", "[options]\npackages = pole\n[options.package_data]\npole = tides.csv\n"},
                     {"pole/__init__.py", ""},
                     {"pole/tides.csv", ""}},
                    {{"pole", "mast"}})),
      testing::ElementsAre("setup.cfg: pole -> mast", "setup.cfg: pole -> mast"));
  EXPECT_THAT(edits(planned({{"pyproject.toml", "[tool.setuptools.package-data]\npole = [\"tides.csv\"]\n"},
                             {"pole/__init__.py", ""},
                             {"pole/tides.csv", ""}},
                            {{"pole", "mast"}})),
              testing::ElementsAre("pyproject.toml: pole -> mast"));
}

TEST(PythonPlans, a_package_that_goes_into_a_new_folder_of_another) {
  TreeFiles files = {{"pole/__init__.py", ""},
                     {"pole/test/__init__.py", ""},
                     {"pole/test/tide.py", "from .. import level\n"},
                     {"pole/level.py", ""}};
  Plan plan = planned(files, {{"pole/test", "pole/checks/test"}});
  EXPECT_THAT(edits(plan), testing::ElementsAre("pole/test/tide.py: .. -> ..."));
  EXPECT_TRUE(plan.changes.made.contains(at("pole/checks/__init__.py")));
  // One whose "__init__" goes alone stays a package for the others.
  plan = planned(files, {{"pole/test/__init__.py", "pole/checks/__init__.py"}});
  EXPECT_TRUE(plan.verified);
  EXPECT_TRUE(plan.changes.made.contains(at("pole/test/__init__.py")));
  // Also for the new folder that it goes to.
  plan = planned(files, {{"pole/test/__init__.py", "pole/test/moved/deeper/__init__.py"}});
  EXPECT_TRUE(plan.verified);
  EXPECT_TRUE(plan.changes.made.contains(at("pole/test/moved/__init__.py")));
  // Outside of all packages a folder is a plain one.
  plan = planned(files, {{"pole/test", "checks/test"}});
  EXPECT_FALSE(plan.changes.made.contains(at("checks/__init__.py")));
}

TEST(PythonPlans, sessions_in_documents) {
  TreeFiles files = {
      {"README.rst",
       "Pole\n====\n\nUse pole.tide so::\n\n    >>> from pole import tide\n    >>> import pole.level\n"
       "    >>> pole.level.mean(tide.load())\n    4\n\n>>> from pole.tide import load\n"},
      {"pole/__init__.py", ""},
      {"pole/tide.py", ""},
      {"pole/level.py", ""}};
  EXPECT_THAT(
      edits(planned(files, {{"pole/tide.py", "pole/sea/tide.py"}})),
      testing::ElementsAre("README.rst: pole -> pole.sea ?", "README.rst: pole.tide -> pole.sea.tide ?"));
  EXPECT_THAT(edits(planned(files, {{"pole/level.py", "pole/height.py"}})),
              testing::ElementsAre("README.rst: pole.level -> pole.height ?",
                                   "README.rst: pole.level -> pole.height ?"));
}

// "pole.Tide" is what the package binds, not the module of that name.
TEST(PythonPlans, sessions_that_take_what_a_package_binds) {
  TreeFiles files = {{"README.rst", ">>> from pole import Tide\n>>> pole.Tide.load()\n"},
                     {"docs/api.rst", ".. autoclass:: pole.Tide\n"},
                     {"pole/__init__.py", "from .Tide import Tide\n"},
                     {"pole/Tide.py", "class Tide: pass\n"}};
  EXPECT_THAT(edits(planned(files, {{"pole/Tide.py", "pole/sea/Tide.py"}})),
              testing::ElementsAre("pole/__init__.py: .Tide -> .sea.Tide"));
}

TEST(PythonPlans, a_session_that_takes_a_module_and_more) {
  TreeFiles files = {
      {"pole/__init__.py", "from .level import Mean\n"},
      {"pole/level.py", "class Mean:\n    pass\n"},
      {"pole/tide.py", "\"\"\"Tides.\n\n>>> from pole import Mean, tide\n>>> tide.now()\n\"\"\"\n"}};
  EXPECT_THAT(
      edits(planned(files, {{"pole/tide.py", "pole/sea/tide.py"}})),
      testing::ElementsAre("pole/tide.py:  -> from pole.sea import tide;  ?", "pole/tide.py: , tide ->  ?"));
  // Several at once.
  files.push_back({"README.rst", "::\n\n  >>> from pole import level, tide as t, wave\n"});
  files.push_back({"pole/wave.py", ""});
  EXPECT_THAT(
      edits(planned(files, {{"pole/tide.py", "pole/sea/tide.py"}, {"pole/wave.py", "pole/sea/wave.py"}})),
      testing::IsSupersetOf({"README.rst:  -> from pole.sea import tide as t; from pole.sea import wave;  ?",
                             "README.rst: , tide as t, wave ->  ?"}));
  EXPECT_THAT(edits(planned(files, {{"pole/level.py", "pole/sea/level.py"},
                                    {"pole/tide.py", "pole/sea/tide.py"},
                                    {"pole/wave.py", "pole/wind/wave.py"}})),
              testing::Contains(
                  "README.rst: from pole import level, tide as t, wave -> from pole.sea import level; from "
                  "pole.sea import tide as t; from pole.wind import wave ?"));
}

TEST(PythonPlans, code_that_a_program_writes) {
  expect_edits({
      {"a name in a pattern",
       {{"pole/__init__.py", ""},
        {"check.py", "import re\nre.match(r'^(pole\\.tide\\.)?Level: .*\\.py', 'x')\n"},
        {"pole/tide.py", ""}},
       {{"pole/tide.py", "pole/sea/tide.py"}},
       {"check.py: pole\\.tide -> pole\\.sea\\.tide ?"}},
      {"the same in a text that is not raw",
       {{"pole/__init__.py", ""},
        {"check.py", "import re\nre.match('''x (pole\\\\.tide\\\\.)?Level''', 'x')\n"},
        {"pole/tide.py", ""}},
       {{"pole/tide.py", "pole/sea/tide.py"}},
       {"check.py: pole\\\\.tide -> pole\\\\.sea\\\\.tide ?"}},
      {"an import of which only the beginning is spelled",
       {{"pole/__init__.py", ""},
        {"pole/write.py", "def write(out, names):\n    out('from pole.tide import ' + ', '.join(names))\n"},
        {"pole/tide.py", ""}},
       {{"pole/tide.py", "pole/sea/tide.py"}},
       {"pole/write.py: pole.tide -> pole.sea.tide ?"}},
  });
}

TEST(PythonPlans, templates_of_a_package) {
  TreeFiles files = {{"pole/__init__.py", ""},
                     {"pole/pages.py", "import jinja2\nload = jinja2.PackageLoader('pole')\n"},
                     {"pole/templates/a.html", ""},
                     {"views/b.html", ""}};
  EXPECT_THAT(reasons(planned(files, {{"pole/templates", "pole/views"}})),
              testing::ElementsAre("lost pole/pages.py"));
  files[1].second = "import jinja2\nload = jinja2.PackageLoader('pole', 'templates')\n";
  EXPECT_THAT(edits(planned(files, {{"pole/templates", "pole/views"}})),
              testing::ElementsAre("pole/pages.py: templates -> views"));
}

TEST(PythonPlans, modules_whose_names_only_the_program_knows) {
  const std::vector<std::string> loads = {
      "mod = __import__(__name__, fromlist=[locale], level=0)",
      "mod = __import__('pole.locales', globals(), locals(), [locale])",
      "mod = __import__(locale, globals(), locals(), [], 1)",
      "mod = __import__(locale, level=1)",
      "import importlib\nmod = importlib.import_module(__name__ + '.' + locale)",
      "import importlib\nmod = importlib.import_module(f'{__name__}.{locale}')",
      "import importlib\nmod = importlib.import_module(locale, __package__)",
      "import importlib\nmod = importlib.import_module(locale, package='pole.locales')",
      "import importlib\nmod = importlib.import_module('.' + locale, __name__)",
  };
  for (const std::string& load : loads) {
    SCOPED_TRACE(load);
    TreeFiles files = {{"pole/__init__.py", ""},
                       {"pole/locales/__init__.py", "def find(locale):\n    pass\n" + load + "\n"},
                       {"pole/locales/fr.py", ""},
                       {"pole/other.py", ""}};
    EXPECT_THAT(reasons(planned(files, {{"pole/locales/fr.py", "pole/locales/fr_fr.py"}})),
                testing::ElementsAre("unseen pole/locales/__init__.py"));
    EXPECT_THAT(edits(planned(files, {{"pole/other.py", "pole/more.py"}})), testing::IsEmpty());
  }
  // What a name that is spelled is bound to, the code around decides.
  TreeFiles files = {{"pole/__init__.py", "mod = __import__('pole', fromlist=['tide'])\n"},
                     {"pole/tide.py", ""},
                     {"pole/other.py", ""}};
  EXPECT_THAT(reasons(planned(files, {{"pole/tide.py", "pole/level.py"}})),
              testing::ElementsAre("unseen pole/__init__.py"));
  EXPECT_THAT(edits(planned(files, {{"pole/other.py", "pole/level.py"}})), testing::IsEmpty());
}

// However the known part steps back.
TEST(PythonPlans, names_that_only_the_program_knows_are_told) {
  const std::vector<std::string> paths = {
      "open('templates/' + name + '.txt')", "open(os.path.join(HERE, '..', 'templates', name + '.txt'))",
      "open(HERE + '/../templates/' + name + '.txt')", "open(f'{HERE}/../templates/{name}.txt')",
      "(Path(__file__).parent.parent / 'templates' / f'{name}.txt').read_text()"};
  for (const std::string& path : paths) {
    TreeFiles files = {
        {"ingest/load.py",
         "import os\nfrom pathlib import Path\nHERE = os.path.dirname(__file__)\ndef load(name):\n"
         "    return " +
             path + "\n\ndef of(kind):\n    return load('%s_template' % kind)\n"},
        {"templates/tide_template.txt", ""},
        {"templates/list.csv", ""}};
    EXPECT_THAT(reasons(planned(files, {{"templates/tide_template.txt", "templates/tides.txt"}})),
                testing::ElementsAre("unseen ingest/load.py"))
        << path;
    EXPECT_TRUE(planned(files, {{"templates/list.csv", "templates/table.csv"}}).verified) << path;
    EXPECT_TRUE(planned(files, {{"templates", "texts"}}).verified) << path;
  }
}

}  // namespace
}  // namespace yc::test
