// What a Python project packs: a move that would leave it out is held back, one that stays among its packages
// is not.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using testing::ElementsAre;
using testing::IsEmpty;

// "unpacked", if the plan holds the move back for that.
std::string packing(const TreeFiles& files, const std::string& from, const std::string& to) {
  Plan plan = planned(files, {{from, to}});
  for (const Blocker& one : plan.blockers) {
    if (one.id == "unpacked" || one.id == "name-bound") return one.id;
  }
  return plan.verified ? "" : plan.blockers[0].id;
}

TreeFiles project(const TreeFiles& settings, const std::string& root) {
  TreeFiles out = settings;
  for (const char* path :
       {"tide/__init__.py", "tide/level.py", "tide/store/__init__.py", "tide/store/base.py"})
    out.emplace_back(root + path, "");
  out.emplace_back("tests/__init__.py", "");
  out.emplace_back("tests/helpers.py", "");
  return out;
}

struct PackingCase {
  const char* what;
  TreeFiles settings;
  std::string root;
  bool packs_all = true;  // all packages in the root, not tide alone
};

TEST(PythonPacking, modules_stay_among_what_is_packed) {
  const std::string setup = "from setuptools import setup, find_packages\n";
  const std::vector<PackingCase> cases = {
      {"find in a folder",
       {{"pyproject.toml",
         "[project]\nname = \"tide\"\n[tool.setuptools.packages.find]\nwhere = [\"lib\"]\n"}},
       "lib/"},
      {"src layout", {{"pyproject.toml", "[project]\nname = \"tide\"\n"}}, "src/"},
      {"flat layout", {{"pyproject.toml", "[project]\nname = \"tide\"\n"}}, "", false},
      {"setup.cfg",
       {{"setup.cfg",
         "[metadata]\nname = tide\n[options]\npackages = find:\npackage_dir =\n    =lib\n"
         "[options.packages.find]\nwhere = lib\n"}},
       "lib/"},
      {"setup.py",
       {{"setup.py",
         setup + "setup(name=\"tide\", packages=find_packages(\"lib\"), package_dir={\"\": \"lib\"})\n"}},
       "lib/"},
      {"hatchling",
       {{"pyproject.toml",
         "[build-system]\nbuild-backend = \"hatchling.build\"\n[project]\nname = \"tide\"\n"
         "[tool.hatch.build.targets.wheel]\npackages = [\"lib/tide\"]\n"}},
       "lib/",
       false},
      {"flit by its name",
       {{"pyproject.toml",
         "[build-system]\nbuild-backend = \"flit_core.buildapi\"\n[project]\nname = \"tide\"\n"}},
       "src/",
       false},
      {"poetry",
       {{"pyproject.toml",
         "[build-system]\nbuild-backend = \"poetry.core.masonry.api\"\n[tool.poetry]\nname = \"tide\"\n"
         "packages = [{ include = \"tide\", from = \"lib\" }]\n"}},
       "lib/",
       false}};
  for (const PackingCase& one : cases) {
    SCOPED_TRACE(one.what);
    TreeFiles files = project(one.settings, one.root);
    EXPECT_EQ(packing(files, one.root + "tide/level.py", "tools/level.py"), "unpacked");
    EXPECT_EQ(packing(files, one.root + "tide/level.py", one.root + "tide/store/level.py"), "");
    EXPECT_EQ(packing(files, one.root + "tide/store", one.root + "tide/kept"), "");
    EXPECT_EQ(packing(files, one.root + "tide/store", one.root + "kept"), one.packs_all ? "" : "unpacked");
    EXPECT_EQ(packing(files, "tests/helpers.py", "checks/helpers.py"), "") << "that was not packed";
  }
}

TEST(PythonPacking, what_is_listed_or_excluded) {
  TreeFiles listed = project({{"setup.py",
                               "from setuptools import setup\nsetup(name=\"tide\", packages=[\"tide\", "
                               "\"tide.store\"], package_dir={\"\": \"lib\"}, py_modules=[\"single\"])\n"}},
                             "lib/");
  listed.emplace_back("lib/single.py", "");
  EXPECT_EQ(packing(listed, "lib/tide/level.py", "tools/level.py"), "unpacked");
  EXPECT_EQ(packing(listed, "lib/tide/level.py", "lib/tide/store/level.py"), "");
  EXPECT_EQ(packing(listed, "lib/single.py", "single.py"), "unpacked");
  EXPECT_EQ(packing(listed, "lib/single.py", "lib/alone.py"), "") << "the list follows";
  TreeFiles excluding = project({{"setup.py",
                                  "from setuptools import setup, find_packages\nsetup(name=\"tide\", "
                                  "packages=find_packages(exclude=[\"tests*\", \"tide.store\"]))\n"}},
                                "");
  EXPECT_EQ(packing(excluding, "tide/store/base.py", "tools/base.py"), "");
  EXPECT_EQ(packing(excluding, "tests/helpers.py", "tools/helpers.py"), "");
  EXPECT_EQ(packing(excluding, "tide/level.py", "tests/level.py"), "unpacked");
}

TEST(PythonPacking, data_goes_with_its_package) {
  TreeFiles files = project({{"setup.cfg",
                              "[metadata]\nname = tide\n[options]\npackages = find:\n"
                              "include_package_data = True\n"},
                             {"setup.py", "from setuptools import setup\nsetup()\n"},
                             {"MANIFEST.in", "graft tide/data\n"}},
                            "");
  files.emplace_back("tide/data/gauges.csv", "");
  EXPECT_EQ(packing(files, "tide/data/gauges.csv", "assets/gauges.csv"), "unpacked");
  EXPECT_EQ(packing(files, "tide/data", "tide/store/data"), "");
  EXPECT_EQ(packing(files, "MANIFEST.in", "meta/MANIFEST.in"), "name-bound");
  EXPECT_EQ(packing(files, "setup.py", "meta/setup.py"), "name-bound");
}

TEST(PythonPacking, settings_that_leave_their_modules) {
  TreeFiles files = project({{"pyproject.toml", "[project]\nname = \"tide\"\n"}}, "src/");
  EXPECT_EQ(packing(files, "pyproject.toml", "meta/pyproject.toml"), "unpacked");
  EXPECT_THAT(
      in_the_way(planned(files, {{"pyproject.toml", "meta/pyproject.toml"}})),
      ElementsAre("meta/pyproject.toml packs src/tide/__init__.py and 3 more, and would not pack them any "
                  "more"));
}

TEST(PythonPacking, what_is_built_into_a_package_follows_it) {
  TreeFiles files = {{"setup.py",
                      "from setuptools import setup, Extension\nsetup(name=\"pole\", packages=[\"pole\"],\n"
                      "      ext_modules=[Extension(\"pole._fast\", sources=[\"fast.c\"])])\n"},
                     {"fast.c", ""},
                     {"pole/__init__.py", ""},
                     {"pole/use.py",
                      "import pole._fast\nfrom pole._version import version\nfrom json.decoder import "
                      "X\npole._fast.run()\n"}};
  EXPECT_THAT(edits(planned(files, {{"pole", "mast"}})),
              ElementsAre("pole/use.py: pole -> mast", "pole/use.py: pole -> mast",
                          "pole/use.py: pole -> mast", "setup.py: pole -> mast", "setup.py: pole -> mast"));
  EXPECT_THAT(edits(planned(files, {{"pole/__init__.py", "pole/core.py"}})), IsEmpty())
      << "the folder is meant, not what the package holds";
}

TEST(PythonPacking, modules_by_a_relative_name_are_looked_for_in_the_folder_of_the_package) {
  TreeFiles files = {{"use.py", "import importlib\nimportlib.import_module(\".one\", \"pole.plugins\")\n"},
                     {"pole/__init__.py", ""},
                     {"pole/plugins/__init__.py", ""},
                     {"pole/plugins/one.py", ""}};
  EXPECT_THAT(edits(planned(files, {{"pole/plugins/__init__.py", "pole/plugins/base.py"}})), IsEmpty());
  EXPECT_THAT(edits(planned(files, {{"pole/plugins", "pole/parts"}})),
              ElementsAre("use.py: pole.plugins -> pole.parts"));
}

}  // namespace
}  // namespace yc::test
