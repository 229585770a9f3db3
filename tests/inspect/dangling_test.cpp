// Texts that lead nowhere where they may, as long as the tree has no file of that name elsewhere.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "inspect/inspect.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

struct LostCase {
  std::string what;
  TreeFiles files;
  std::vector<std::string> found;  // "id file -> meant", notes in brackets
};

void expect_found(const std::vector<LostCase>& cases, const IsIgnored& is_ignored = {}) {
  for (const LostCase& one : cases) {
    SCOPED_TRACE(one.what);
    MemoryTree tree = tree_of(one.files);
    std::vector<std::string> found;
    for (const Finding& finding : check(tree, read(tree), kNoRule, is_ignored)) {
      std::string line = finding.id + " " + finding.file.str();
      if (!finding.suggestion.empty()) line += " -> " + finding.suggestion;
      found.push_back(finding.is_note ? "(" + line + ")" : line);
    }
    EXPECT_EQ(found, one.found);
  }
}

TEST(Dangling, sources_that_only_commands_name) {
  expect_found({
      {"a source that went elsewhere",
       {{"Makefile", "tide: main.c\n\tcc -c src/level.c -o level.o\n\tcc -o tide main.c level.o\n"},
        {"build.sh", "#!/bin/sh\ncc -o tide main.c src/level.c\n"},
        {"main.c", "int main(void) { return 0; }\n"},
        {"lib/level.c", ""}},
       {"dangling Makefile -> lib/level.c", "dangling build.sh -> lib/level.c"}},
      {"what a rule makes, and what is nowhere, is not",
       {{"Makefile",
         "all:\n\tcc -c src/table.c\n\tcc -c src/none.c\nsrc/table.c:\n\t./make_table > src/table.c\n"},
        {"old/table.c", ""}},
       {}},
  });
}

TEST(Dangling, of_pages_and_styles) {
  expect_found({
      {"a picture that went elsewhere",
       {{"site/index.html", "<img src=\"images/map.svg\">\n"}, {"site/pictures/map.svg", ""}},
       {"dangling site/index.html -> site/pictures/map.svg"}},
      {"one that is nowhere may be made, and what begins with a slash may be served from anywhere",
       {{"site/index.html", "<img src=\"images/map.svg\"><a href=\"/map.svg\">m</a>\n"},
        {"site/a/map.svg", ""}},
       {"dangling site/index.html -> site/a/map.svg"}},
      {"a partial that went elsewhere",
       {{"scss/site.scss", "@use \"parts/colours\";\n"}, {"scss/base/_colours.scss", ""}},
       {"dangling scss/site.scss -> scss/base/_colours.scss"}},
      {"an installed one", {{"scss/site.scss", "@use \"library/all\";\n"}}, {}},
  });
}

TEST(Dangling, is_not_what_version_control_ignores) {
  TreeFiles files = {{"site/index.html", "<script src=\"out/app.js\"></script>\n"}, {"src/app.js", ""}};
  expect_found({{"found", files, {"dangling site/index.html -> src/app.js"}}});
  expect_found({{"ignored", files, {}}}, [](const RelPath& path) { return path.is_within(at("site/out")); });
}

TEST(Dangling, of_module_aliases) {
  const std::string settings = "{ \"compilerOptions\": { \"paths\": { \"@/*\": [\"./src/*\"] } } }\n";
  expect_found({
      {"the folder was renamed",
       {{"tsconfig.json", settings}, {"src/main.ts", "import '@/lib/level';\n"}, {"src/core/level.ts", ""}},
       {"dangling src/main.ts -> src/core/level.ts"}},
      {"an installed package has such a name too",
       {{"tsconfig.json", settings}, {"src/main.ts", "import 'level';\n"}, {"src/core/level.ts", ""}},
       {}},
  });
}

TEST(Dangling, of_python_imports) {
  expect_found({
      {"of a package that is here",
       {{"ingest/__init__.py", ""},
        {"ingest/cli.py", "from ingest import stations\nimport ingest.charts\n"},
        {"ingest/core/__init__.py", ""},
        {"ingest/core/stations.py", ""},
        {"plots/charts.py", ""}},
       {"lost-module ingest/cli.py -> ingest/core/stations.py",
        "lost-module ingest/cli.py -> plots/charts.py"}},
      {"names that the package binds itself",
       {{"ingest/__init__.py", "stations = 1\n"},
        {"ingest/cli.py", "from ingest import stations\n"},
        {"core/stations.py", ""}},
       {}},
      {"what a package brings by a star is not known",
       {{"ingest/__init__.py", "from .core import *\n"},
        {"ingest/core.py", "stations = 1\n"},
        {"ingest/cli.py", "from ingest import stations\n"},
        {"other/stations.py", ""}},
       {}},
      {"a module that may as well be installed is worth a note",
       {{"tools/run.py", "import levels\n"}, {"lib/deep/levels.py", ""}},
       {"(lost-module tools/run.py -> lib/deep/levels.py)"}},
      {"a standard one", {{"tools/run.py", "import json\n"}, {"lib/deep/json.py", ""}}, {}},
  });
}

TEST(Dangling, of_containers) {
  const std::string compose = "services:\n  gauge:\n    build: .\n";
  expect_found({
      {"a folder that went elsewhere",
       {{"compose.yml", compose}, {"Dockerfile", "FROM a\nCOPY api/ api/\n"}, {"src/api/main.c", ""}},
       {"dangling Dockerfile -> src/api"}},
      {"one that the build may make",
       {{"compose.yml", compose}, {"Dockerfile", "FROM a\nCOPY out/ out/\n"}},
       {"(dangling Dockerfile)"}},
  });
}

TEST(Dangling, in_a_nested_repository_is_said_once) {
  const std::string modules = "[submodule \"crc\"]\n\tpath = crc\n\turl = ../crc\n";
  TreeFiles files = {{".gitmodules", modules},
                     {"Makefile", "gauge: gauge.c crc/crc.c\n\tcc -o gauge gauge.c crc/crc.c\n"},
                     {"gauge.c", "#include \"crc/crc.h\"\n"}};
  expect_found({{"a clone that was not filled", files, {"(missing-submodule .gitmodules)"}}});
}

TEST(Dangling, patterns_of_settings) {
  expect_found({
      {"sources that a compiler takes in",
       {{"tsconfig.json", "{ \"include\": [\"lib/**/*.ts\"] }\n"}, {"src/lib/a.ts", ""}},
       {"empty-pattern tsconfig.json -> src/lib"}},
      {"data of a package",
       {{"setup.cfg", "[options.package_data]\ningest = data/*.csv\n"},
        {"ingest/__init__.py", ""},
        {"ingest/assets/data/a.csv", ""}},
       {"empty-pattern setup.cfg -> ingest/assets/data"}},
  });
}

TEST(Dangling, sketches_without_their_folders_name) {
  expect_found({
      {"alone", {{"TidePole/Pole.ino", ""}}, {"misnamed-sketch TidePole/Pole.ino"}},
      {"a tab of another", {{"Pole/Pole.ino", ""}, {"Pole/lamp.ino", ""}}, {}},
  });
}

}  // namespace
}  // namespace yc::test
