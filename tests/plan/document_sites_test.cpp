// Plans of sites that are made of documents: by Sphinx and by MkDocs.
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using Lines = std::vector<std::string>;

TreeFiles sphinx(TreeFiles more) {
  TreeFiles out = {
      {"docs/conf.py",
       "import os\nimport sys\nsys.path.insert(0, os.path.abspath('../src'))\nsys.path.insert(0, "
       "os.path.abspath('.'))\nextensions = ['ext.units']\nhtml_static_path = ['_static']\n"
       "html_css_files = ['pole.css']\n"},
      {"docs/index.rst", "Pole\n====\n\n.. toctree::\n   :glob:\n\n   start\n   guide/*\n"},
      {"docs/start.rst", "Start\n=====\n\n.. include:: shared/note.rst\n"},
      {"docs/shared/note.rst", "Note\n"},
      {"docs/guide/tides.rst", ".. automodule:: tide.pole\n\n.. autofunction:: tide.pole.height\n"},
      {"docs/_static/pole.css", "p { color: red }\n"},
      {"docs/ext/units.py", "def setup(app): return {}\n"},
      {"src/tide/__init__.py", ""},
      {"src/tide/pole.py", "def height(x): return x\n"}};
  out.insert(out.end(), more.begin(), more.end());
  return out;
}

TEST(DocumentSites, sphinx_lists_and_describes) {
  expect_edits({
      {"a folder that is listed by a pattern",
       sphinx({}),
       {{"docs/guide", "docs/guides"}},
       {"docs/index.rst: guide/* -> guides/*"}},
      {"a module, by the folders that the settings add",
       sphinx({}),
       {{"src/tide/pole.py", "src/tide/core/pole.py"}},
       {"docs/guide/tides.rst: tide.pole -> tide.core.pole",
        "docs/guide/tides.rst: tide.pole -> tide.core.pole"}},
      {"the folder of what is served as it is",
       sphinx({}),
       {{"docs/_static", "docs/assets"}},
       {"docs/conf.py: _static -> assets ?"}},
      {"a stylesheet in it",
       sphinx({}),
       {{"docs/_static/pole.css", "docs/_static/site.css"}},
       {"docs/conf.py: pole.css -> site.css ?"}},
      {"what is only included is no document",
       sphinx({}),
       {{"docs/shared/note.rst", "shared/note.rst"}},
       {"docs/start.rst: shared/note.rst -> ../shared/note.rst"}},
  });
}

TEST(DocumentSites, sphinx_finds_documents_below_its_folder) {
  EXPECT_EQ(reasons(planned(sphinx({}), {{"docs/start.rst", "start.rst"}})),
            Lines{"not-served docs/start.rst"});
  EXPECT_EQ(reasons(planned(sphinx({}), {{"docs/index.rst", "docs/home.rst"}})),
            Lines{"name-bound docs/index.rst"});
  EXPECT_EQ(reasons(planned(sphinx({}), {{"docs/conf.py", "docs/settings.py"}})),
            Lines{"name-bound docs/conf.py"});
  EXPECT_EQ(reasons(planned(sphinx({}), {{"docs/conf.py", "docs/source/conf.py"}})).back(),
            "name-bound docs/conf.py");
  EXPECT_EQ(in_the_way(planned(sphinx({}), {{"docs", "web/docs"}})), Lines());
  TreeFiles named = sphinx({{"docs/home.rst", "Home\n"}});
  named[0].second += "root_doc = 'home'\n";
  EXPECT_EQ(reasons(planned(named, {{"docs/home.rst", "docs/first.rst"}})),
            Lines{"name-bound docs/home.rst"});
}

// Its folder is searched, the root of the tree is not.
TEST(DocumentSites, sphinx_does_not_look_for_modules_where_nothing_says_so) {
  EXPECT_EQ(reasons(planned(sphinx({}), {{"docs/ext/units.py", "more/units.py"}})),
            Lines{"lost docs/conf.py"});
  EXPECT_EQ(reasons(planned(sphinx({}), {{"src/tide/pole.py", "more/pole.py"}})).front(),
            "lost docs/guide/tides.rst");
}

TreeFiles mkdocs(TreeFiles more) {
  TreeFiles out = {{"mkdocs.yml",
                    "site_name: Pole\nnav:\n  - Home: index.md\n  - guide/start.md\nextra_css:\n"
                    "  - css/pole.css\n"},
                   {"docs/index.md", "[start](guide/start.md)\n"},
                   {"docs/guide/start.md", "<img src=\"../../img/pole.svg\">\n"},
                   {"docs/img/pole.svg", "<svg/>\n"},
                   {"docs/css/pole.css", "p { background: url(../img/pole.svg) }\n"},
                   {"setup.py", ""},
                   {"tide/__init__.py", ""},
                   {"tide/pole.py", "x = 1\n"}};
  out.insert(out.end(), more.begin(), more.end());
  return out;
}

TEST(DocumentSites, mkdocs_publishes_its_folder) {
  for (const char* file : {"docs/guide/start.md", "docs/img/pole.svg", "docs/css/pole.css"})
    EXPECT_EQ(reasons(planned(mkdocs({}), {{file, std::string(file).substr(5)}})),
              Lines{"not-served " + std::string(file)});
  EXPECT_EQ(reasons(planned(mkdocs({}), {{"docs/index.md", "docs/home.md"}})),
            Lines{"name-bound docs/index.md"});
  EXPECT_EQ(in_the_way(planned(mkdocs({}), {{"docs", "web"}})),
            Lines{"docs/css/pole.css would lie outside of docs, the folder that MkDocs makes a site of (and "
                  "3 more)"});
  EXPECT_EQ(in_the_way(planned(mkdocs({{"docs/requirements.txt", "mkdocs\n"}}),
                               {{"docs/requirements.txt", "requirements/docs.txt"}})),
            Lines());
  TreeFiles named = mkdocs({});
  named[0].second += "docs_dir: docs\n";
  EXPECT_EQ(edits(planned(named, {{"docs", "web"}})), Lines{"mkdocs.yml: docs -> web ?"});
}

// docs/guide/start.md is served as guide/start/.
TEST(DocumentSites, attributes_in_pages_of_mkdocs_count_from_where_these_are_served) {
  Lines page = {"docs/css/pole.css: ../img/pole.svg -> ../art/pole.svg",
                "docs/guide/start.md: ../img/pole.svg -> ../art/pole.svg"};
  EXPECT_EQ(edits(planned(mkdocs({}), {{"docs/img/pole.svg", "docs/art/pole.svg"}})), page);
  TreeFiles flat = mkdocs({});
  flat[0].second += "use_directory_urls: false\n";
  EXPECT_EQ(edits(planned(flat, {{"docs/img/pole.svg", "docs/art/pole.svg"}})), Lines{page[0]});
}

TEST(DocumentSites, modules_between_braces_and_behind_colons) {
  expect_edits({{"in Markdown",
                 mkdocs({{"docs/api.md",
                          "::: tide.pole.height\n\n```{automodule} tide.pole\n```\n\n"
                          "{py:mod}`tide.pole` {mod}`~tide.pole` :mod:`tide.pole`\n"}}),
                 {{"tide/pole.py", "tide/core.py"}},
                 {"docs/api.md: tide.pole -> tide.core", "docs/api.md: tide.pole -> tide.core",
                  "docs/api.md: tide.pole -> tide.core", "docs/api.md: tide.pole -> tide.core",
                  "docs/api.md: tide.pole -> tide.core"}}});
}

}  // namespace
}  // namespace yc::test
