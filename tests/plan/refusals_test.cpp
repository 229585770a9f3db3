// What stands in the way of a move, a table over all kinds of trees: the identifier, the place that is named,
// and a part of the reason.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::HasSubstr;

struct Refused {
  std::string what;
  TreeFiles files;
  TreeMoves moves;
  std::string id, file, reason;
};

void expect_refused(const std::vector<Refused>& cases) {
  for (const Refused& one : cases) {
    SCOPED_TRACE(one.what);
    Plan plan = planned(one.files, one.moves);
    EXPECT_FALSE(plan.verified);
    bool met = false;
    std::string all;
    for (const Blocker& item : plan.blockers) {
      std::string line =
          item.id + " " + item.file.str() + ": " + item.text + " " + item.reason + "; " + item.next;
      met = met ||
            (item.id == one.id && item.file.str() == one.file && line.find(one.reason) != std::string::npos);
      EXPECT_FALSE(item.next.empty()) << "a next step is told: " << line;
      all += line + "\n";
    }
    EXPECT_TRUE(met) << "wanted " << one.id << " " << one.file << ": " << one.reason << "\n" << all;
  }
}

TEST(Refusals, build_scripts) {
  expect_refused({
      {"a name that make learns from a program",
       {{"Makefile", "N := $(shell ./name.sh)\np: src/$(N).c\n\tcc -o $@ $^\n"},
        {"src/a.c", ""},
        {"src/b.c", ""},
        {"name.sh", ""}},
       {{"src/a.c", "lib/a.c"}},
       "unseen",
       "Makefile",
       "only known when it runs"},
      {"a list that is handed on in the order of names",
       {{"Makefile", "one.c: a.c b.c\n\tls a.c b.c | awk '{print \"#include\", $$1}' > $@\n"},
        {"a.c", ""},
        {"b.c", ""}},
       {{"b.c", "a/b.c"}},
       "order",
       "Makefile",
       "order of names"},
      {"a meson script names only folders below it",
       {{"meson.build", "project('t', 'c')\nsubdir('a')\n"},
        {"a/meson.build", "subdir('b')\n"},
        {"a/b/meson.build", "executable('x', 'x.c')\n"},
        {"a/b/x.c", ""}},
       {{"a/b", "c"}},
       "lost",
       "a/meson.build",
       "only folders below its own"},
      {"a subproject keeps its files",
       {{"meson.build", "project('t', 'c')\nsubproject('s')\n"},
        {"subprojects/s/meson.build", "project('s', 'c')\nlibrary('s', 's.c')\n"},
        {"subprojects/s/s.c", ""}},
       {{"subprojects/s/s.c", "src/s.c"}},
       "lost",
       "subprojects/s/meson.build",
       "takes no files from outside"},
      {"the options of a meson project are looked for beside its script",
       {{"meson.build", "project('t', 'c')\nexecutable('a', 'a.c')\n"},
        {"meson_options.txt", "option('x', type: 'string')\n"},
        {"a.c", ""}},
       {{"meson_options.txt", "etc/meson_options.txt"}},
       "lost",
       "meson.build",
       "stands for what meson finds there by its name"},
      {"one of several objects that one call of the compiler makes",
       {{"Makefile",
         "p: gauge.o tide.o\n\tcc -o $@ gauge.o tide.o\ngauge.o tide.o:\n\tcc -c gauge.c tide.c\n"},
        {"gauge.c", ""},
        {"tide.c", ""}},
       {{"gauge.c", "level.c"}},
       "renamed",
       "Makefile",
       "more than a move"},
      {"an object that the compiler names after its source, which a variable names",
       {{"Makefile", "S = gauge.c\np: gauge.o\n\tcc -o $@ gauge.o\ngauge.o: $(S)\n\tcc -c $(S)\n"},
        {"gauge.c", ""}},
       {{"gauge.c", "level.c"}},
       "renamed",
       "Makefile",
       "more than a move"},
  });
}

TEST(Refusals, modules_and_routes) {
  expect_refused({
      {"a module that is asked for by a name put together",
       {{"src/main.js", "export const load = (n) => import(`./pages/${n}.js`);\n"},
        {"src/pages/a.js", ""},
        {"src/pages/b.js", ""}},
       {{"src/pages/a.js", "src/views/a.js"}},
       "unseen",
       "src/main.js",
       "only known when it runs"},
      {"a plug-in that a program finds by walking its folder",
       {{"tide/__init__.py", ""},
        {"tide/load.py",
         "import importlib\ndef get(n): return importlib.import_module('tide.plugins.' + n)\n"},
        {"tide/plugins/__init__.py", ""},
        {"tide/plugins/csv.py", ""},
        {"tide/plugins/txt.py", ""}},
       {{"tide/plugins/csv.py", "tide/formats/csv.py"}},
       "unseen",
       "tide/load.py",
       "only known when it runs"},
      {"a module that would take the place of one of Python's own",
       {{"main.py", "import json\nimport data\n"}, {"data.py", ""}},
       {{"data.py", "json.py"}},
       "drift",
       "main.py",
       ""},
  });
}

TEST(Refusals, projects_and_containers) {
  const std::string project = "<Project xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\">\n";
  expect_refused({
      {"a file that leaves the context of a container's build",
       {{"compose.yaml", "services:\n  a:\n    build: ./office\n"},
        {"office/Dockerfile", "FROM x\nCOPY a.txt /\n"},
        {"office/a.txt", ""}},
       {{"office/a.txt", "shared/a.txt"}},
       "lost",
       "office/Dockerfile",
       "a.txt"},
      {"filters go with the project that they are named after",
       {{"a.vcxproj", project + "</Project>\n"}, {"a.vcxproj.filters", project + "</Project>\n"}},
       {{"a.vcxproj.filters", "etc/a.vcxproj.filters"}},
       "name-bound",
       "etc/a.vcxproj.filters",
       ""},
      {"a garbled project may name what moves",
       {{"a.csproj", "<Project><ItemGroup><Compile Include=\"src\\A.cs\" />\n"}, {"src/A.cs", ""}},
       {{"src/A.cs", "lib/A.cs"}},
       "garbled",
       "a.csproj",
       "cannot be read"},
      {"a sketch and its folder bear one name",
       {{"gauge/gauge.ino", "void setup() {}\n"}, {"gauge/level.h", ""}},
       {{"gauge/gauge.ino", "gauge/tide.ino"}},
       "name-bound",
       "gauge/tide.ino",
       ""},
  });
}

TEST(Refusals, two_sources_that_would_be_one_object) {
  TreeFiles files = {{"Makefile",
                      "SRC = a/x.c b/y.c\nOBJ = $(addprefix out/,$(notdir $(SRC:.c=.o)))\nvpath %.c a "
                      "b\nall: $(OBJ)\nout/%.o: %.c\n\tcc -c -o $@ $<\n"},
                     {"a/x.c", ""},
                     {"b/y.c", ""}};
  Plan plan = planned(files, {{"b/y.c", "b/x.c"}});
  EXPECT_FALSE(plan.verified);
}

// What is not taken with the folder that it goes into, is refused: never left out without a word.
TEST(Refusals, a_star_that_does_not_look_into_folders) {
  TreeFiles files = {
      {"Makefile", "install:\n\tcp data/* /srv/tide\n"}, {"data/a.csv", ""}, {"data/b.csv", ""}};
  EXPECT_THAT(reasons(planned(files, {{"data/a.csv", "data/old/a.csv"}})), Contains("drift Makefile"));
  files[0].second = "install:\n\tcp -R data/* /srv/tide\n";
  EXPECT_TRUE(planned(files, {{"data/a.csv", "data/old/a.csv"}}).verified);
}

TEST(Refusals, data_that_would_not_be_packed_any_more) {
  TreeFiles files = {
      {"setup.cfg",
       "[metadata]\nname = tide\n[options]\npackages = tide\n[options.package_data]\ntide = data/*.csv\n"},
      {"tide/__init__.py", ""},
      {"tide/data/a.csv", ""},
      {"tide/data/b.csv", ""}};
  EXPECT_THAT(reasons(planned(files, {{"tide/data/a.csv", "tide/data/old/a.csv"}})),
              Contains("unpacked setup.cfg"));
  EXPECT_THAT(reasons(planned(files, {{"tide/data/a.csv", "tide/data/a.txt"}})),
              Contains("unpacked setup.cfg"));
  EXPECT_TRUE(planned(files, {{"tide/data/a.csv", "tide/data/c.csv"}}).verified);
  EXPECT_TRUE(planned(files, {{"tide/data", "tide/tables"}}).verified);
  // The settings know the package by its name, which follows.
  EXPECT_THAT(edits(planned(files, {{"tide", "gauges/tide"}})),
              Contains("setup.cfg: tide -> gauges.tide").Times(2));
}

TEST(Refusals, can_be_taken_on_where_only_a_run_would_tell) {
  TreeFiles files = {{"Makefile", "N := $(shell ./name.sh)\np: src/$(N).c\n\tcc -o $@ $^\n"},
                     {"src/a.c", ""},
                     {"src/b.c", ""}};
  PlanOptions options;
  options.accept_unseen = true;
  EXPECT_TRUE(planned(files, {{"src/a.c", "lib/a.c"}}, options).verified);
}

// "testpaths" has only some folders searched.
TEST(Refusals, tests_that_leave_the_folders_that_are_searched) {
  const TreeFiles files = {{"setup.cfg", "[tool:pytest]\ntestpaths = tests\n"},
                           {"tests/test_tide.py", "def test_high():\n    pass\n"},
                           {"tests/sea/test_sea.py", "def test_sea():\n    pass\n"},
                           {"tide/level.py", "HIGH = 4\n"}};
  EXPECT_THAT(reasons(planned(files, {{"tests/test_tide.py", "tide/test_tide.py"}})),
              testing::ElementsAre("uncollected tests/test_tide.py"));
  EXPECT_THAT(edits(planned(files, {{"tests/test_tide.py", "tests/sea/test_tide.py"}})), testing::IsEmpty());
  EXPECT_TRUE(planned(files, {{"tests", "checks"}}).verified) << "the folder goes along with its name";
}

TEST(Refusals, tests_that_no_runner_would_find) {
  const TreeFiles files = {{"tests/test_tide.py", "def test_high():\n    pass\n"},
                           {"tests/helpers_test.py", "HIGH = 4\n"},
                           {"web/tide.test.ts", "test('high', () => {});\n"},
                           {"web/__tests__/pole.js", "test('pole', () => {});\n"}};
  EXPECT_THAT(reasons(planned(files, {{"tests/test_tide.py", "tests/tide_checks.py"}})),
              testing::ElementsAre("uncollected tests/test_tide.py"));
  EXPECT_THAT(edits(planned(files, {{"tests/test_tide.py", "tests/sea/tide_test.py"}})), testing::IsEmpty());
  EXPECT_THAT(edits(planned(files, {{"tests/helpers_test.py", "tests/helpers.py"}})), testing::IsEmpty())
      << "there are no tests in it";
  EXPECT_THAT(reasons(planned(files, {{"web/tide.test.ts", "web/tide_test.ts"}})),
              testing::ElementsAre("uncollected web/tide.test.ts"));
  EXPECT_THAT(reasons(planned(files, {{"web/__tests__/pole.js", "web/pole.js"}})),
              testing::ElementsAre("uncollected web/__tests__/pole.js"));
  EXPECT_THAT(edits(planned(files, {{"web/__tests__/pole.js", "web/pole.test.js"}})), testing::IsEmpty());
  // The settings have the last word.
  TreeFiles other = files;
  other.push_back({"pytest.ini", "[pytest]\npython_files = test_*.py *_checks.py\n"});
  EXPECT_THAT(edits(planned(other, {{"tests/test_tide.py", "tests/tide_checks.py"}})), testing::IsEmpty());
  EXPECT_THAT(reasons(planned(other, {{"tests/test_tide.py", "tests/tide_test.py"}})),
              testing::ElementsAre("uncollected tests/test_tide.py"));
  PlanOptions options;
  options.accept_unseen = true;
  EXPECT_TRUE(planned(files, {{"tests/test_tide.py", "tests/tide.py"}}, options).verified);
}

// What one build system cannot follow is not done by a rule that the plan writes for another, and what is
// told is what stood in the way of the best try.
TEST(Refusals, of_one_of_two_build_systems) {
  TreeFiles files = {
      {"src/Makefile",
       "include list.inc\nO = obj\nOBJ = $(patsubst %.c,$(O)/%.o,$(SRC))\nall: $(O) p\np: $(OBJ)\n\tcc -o p "
       "$(OBJ)\n$(O)/%.o: %.c\n\tcc -c -o $@ $<\n$(O):\n\tmkdir $(O)\n"},
      {"src/list.inc", "SRC = \\\n  a.c \\\n  b.c\n"},
      {"src/a.c", "#include \"t.h\"\n"},
      {"src/b.c", ""},
      {"src/t.h", ""},
      {"win/build.vc",
       "!INCLUDE \"../src/list.inc\"\nD = ..\\src\nOBJS = obj\\a.obj obj\\b.obj\n{$(D)}.c{obj\\}.obj:\n\tcl "
       "/c "
       "$<\np.exe: $(OBJS)\n\tlink $(OBJS)\n"}};
  Plan plan = planned(files, {{"src/a.c", "src/sub/a.c"}});
  ASSERT_EQ(plan.blockers.size(), 1u);
  EXPECT_EQ(plan.blockers[0].file, at("win/build.vc"));
  EXPECT_THAT(plan.blockers[0].reason, HasSubstr("compiles what is in src, and none what is in src/sub"));
}

}  // namespace
}  // namespace yc::test
