// Plans for trees that Meson and automake build, with resources and side files, a table: what moves, and
// every edit that follows.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

TEST(BuildPlans, meson) {
  const std::string project = "project('tide', 'c')\n";
  expect_edits({
      {"sources in a variable, across folders",
       {{"meson.build", project + "srcs = files('a.c')\nsubdir('src')\nexecutable('t', srcs)\n"},
        {"a.c", ""},
        {"src/meson.build", "srcs += files('b.c')\n"},
        {"src/b.c", ""},
        {"src/c.c", ""}},
       {{"src/b.c", "src/net/b.c"}, {"a.c", "core/a.c"}},
       {"meson.build: a.c -> core/a.c", "src/meson.build: b.c -> net/b.c"}},
      {"a subfolder's script with its folder",
       {{"meson.build", project + "subdir('src')\nexecutable('t', srcs, include_directories: inc)\n"},
        {"src/meson.build", "srcs = files('b.c')\ninc = include_directories('.')\n"},
        {"src/b.c", "#include \"b.h\"\n"},
        {"src/b.h", ""}},
       {{"src", "core"}},
       {"meson.build: src -> core"}},
      {"what a command is given",
       {{"meson.build", project + "gen = custom_target('g', input: 'data/tides.csv', output: 'tides.c', "
                                  "command: [find_program('tools/gen.py'), "
                                  "'@INPUT@', '--base', meson.current_source_dir() / 'data'], depend_files: "
                                  "'data/extra.txt')\nexecutable('t', gen)\n"},
        {"data/tides.csv", ""},
        {"data/extra.txt", ""},
        {"tools/gen.py", "print()\n"}},
       {{"data", "tables"}, {"tools/gen.py", "scripts/gen.py"}},
       {"meson.build: data/tides.csv -> tables/tides.csv", "meson.build: tools/gen.py -> scripts/gen.py",
        "meson.build: data -> tables ?", "meson.build: data/extra.txt -> tables/extra.txt"}},
      {"templates and what is installed",
       {{"meson.build", project + "configure_file(input: 'conf/tide.h.in', output: 'tide.h', configuration: "
                                  "{})\ninstall_headers('include/tide.h')\n"
                                  "install_data('data/a.csv', install_dir: 'share')\ninstall_subdir('docs', "
                                  "install_dir: 'share')\n"},
        {"conf/tide.h.in", ""},
        {"include/tide.h", ""},
        {"data/a.csv", ""},
        {"docs/x.md", ""}},
       {{"conf/tide.h.in", "templates/tide.h.in"}, {"docs", "manual"}, {"data/a.csv", "tables/a.csv"}},
       {"meson.build: conf/tide.h.in -> templates/tide.h.in", "meson.build: data/a.csv -> tables/a.csv",
        "meson.build: docs -> manual"}},
      {"a loop over names",
       {{"meson.build",
         project +
             "foreach n : ['level', 'water']\n  test(n, executable(n, 'tests' / n + '.c'))\nendforeach\n"},
        {"tests/level.c", ""},
        {"tests/water.c", ""}},
       {{"tests", "checks"}},
       {"meson.build: tests -> checks"}},
  });
}

TEST(BuildPlans, makefiles_that_are_started_elsewhere) {
  expect_edits({
      {"a makefile that moves is still started where it was, and counts from there",
       {{"Makefile", "all:\n\tcd src && $(MAKE) all\n"},
        {"src/Makefile", "all: tide.o\ntide.o: tide.c tide.h\n\tcc -c tide.c\n"},
        {"src/tide.c", "#include \"tide.h\"\n"},
        {"src/tide.h", ""}},
       {{"src/Makefile", "core/Makefile"}, {"src/tide.h", "core/tide.h"}},
       {"Makefile:  ->  -f ../core/Makefile", "src/Makefile: tide.h -> ../core/tide.h",
        "src/tide.c: tide.h -> ../core/tide.h"}},
  });
}

// "for d in $(DIRS); do $(MAKE) -C $$d; done": make is started in each of them, not only in the first.
TEST(BuildPlans, folders_that_a_loop_starts_make_in) {
  const TreeFiles folders = {{"lib/Makefile", "l: l.c\n\tcc -I../inc -o l l.c\n"},
                             {"lib/l.c", ""},
                             {"client/Makefile", "c: c.c\n\tcc -I../inc -o c c.c\n"},
                             {"client/c.c", ""},
                             {"inc/t.h", ""}};
  const std::pair<const char*, const char*> makefiles[] = {
      {"DIRS = lib client\nall:\n\tfor d in $(DIRS); do $(MAKE) -C $$d; done\n", "client"},
      {"DIRS = lib client\nall:\n\tset -e; for d in ${DIRS}; do $(MAKE) -C $${d} all; done\n", "client"},
      {"all:\n\t@for d in client lib; do $(MAKE) --directory=$$d || exit 1; done\n", "client"},
      {"all:\n\tfor d in lib client; do $(MAKE) -C $$d -f Makefile; done\n", "client"},
      {"all:\n\tfor d in lib client; do cd $$d && $(MAKE) && cd ..; done\n", "client"},
      {"all:\n\tfor d in lib client; do (cd $$d; $(MAKE)) || exit 1; done\n", "client"}};
  for (const auto& [makefile, word] : makefiles) {
    SCOPED_TRACE(makefile);
    TreeFiles files = folders;
    files.emplace_back("Makefile", makefile);
    Plan plan = planned(files, {{"client", "tools"}});
    EXPECT_TRUE(plan.verified);
    EXPECT_THAT(edits(plan), testing::Each(testing::StartsWith("Makefile: client -> tools")));
    EXPECT_EQ(plan.edits.size(), 1u);
  }
  // A makefile alone cannot leave a folder that all are started in by one text.
  TreeFiles files = folders;
  files.emplace_back("Makefile", makefiles[0].first);
  EXPECT_FALSE(planned(files, {{"client/Makefile", "client/build/Makefile"}}).verified);
}

TEST(BuildPlans, macros_that_aclocal_finds) {
  TreeFiles files = {
      {"configure.ac", "AC_INIT([pole], [1])\nAC_CONFIG_MACRO_DIRS([m4])\nPOLE_CHECK\nAC_OUTPUT\n"},
      {"Makefile.am", "ACLOCAL_AMFLAGS = -I m4 \\\n  -I more\n"},
      {"m4/check.m4", "AC_DEFUN([POLE_CHECK], [TIDE_CHECK])\n"},
      {"m4/unused.m4", "AC_DEFUN([POLE_OTHER], [])\n"},
      {"more/tide.m4", "AC_DEFUN([TIDE_CHECK], [])\n"},
      {"more/other.m4", ""},
      {"src/a.c", ""}};
  // One of them is found by what it defines, as long as it stays in one of the folders.
  EXPECT_THAT(edits(planned(files, {{"m4/check.m4", "m4/gauge.m4"}})), testing::IsEmpty());
  EXPECT_THAT(edits(planned(files, {{"m4/check.m4", "more/check.m4"}})), testing::IsEmpty());
  EXPECT_THAT(reasons(planned(files, {{"m4/check.m4", "src/check.m4"}})),
              testing::ElementsAre("lost configure.ac"));
  EXPECT_THAT(reasons(planned(files, {{"more/tide.m4", "src/tide.m4"}})),
              testing::ElementsAre("lost configure.ac"))
      << "another one uses it";
  EXPECT_THAT(edits(planned(files, {{"m4/unused.m4", "src/unused.m4"}})), testing::IsEmpty());
  EXPECT_THAT(edits(planned(files, {{"more", "build/more"}})),
              testing::ElementsAre("Makefile.am: more -> build/more"));
}

// One build system does not find what another one makes, though it may lie at the same place of its build
// tree.
TEST(BuildPlans, what_two_build_systems_make) {
  TreeFiles files = {
      {"CMakeLists.txt",
       "project(pole C)\nconfigure_file(include/pole/config.h.in include/pole/config.h)\nadd_library(pole "
       "src/a.c)\ntarget_include_directories(pole PRIVATE include ${CMAKE_CURRENT_BINARY_DIR}/include)\n"},
      {"include/pole/config.h.in", ""},
      {"include/pole/os.h", "#include <pole/config.h>\n"},
      {"src/a.c", "#include <pole/os.h>\n"}};
  EXPECT_THAT(edits(planned(files, {{"include/pole", "include/tide"}})),
              testing::ElementsAre("CMakeLists.txt: include/pole/config.h.in -> include/tide/config.h.in",
                                   "src/a.c: pole/os.h -> tide/os.h"));
  files.push_back({"configure.ac",
                   "AC_INIT([pole], [1])\nAM_INIT_AUTOMAKE([foreign subdir-objects])\n"
                   "AC_CONFIG_FILES([Makefile include/pole/config.h])\nAC_OUTPUT\n"});
  files.push_back({"Makefile.am",
                   "lib_LIBRARIES = libpole.a\nlibpole_a_SOURCES = src/a.c\n"
                   "AM_CPPFLAGS = -I$(top_srcdir)/include -I$(top_builddir)/include\n"});
  EXPECT_THAT(reasons(planned(files, {{"include/pole", "include/tide"}})),
              testing::Contains("lost include/pole/os.h"));
}

TEST(BuildPlans, automake) {
  const TreeFiles top = {
      {"configure.ac",
       "AC_INIT([tide], [1])\nAM_INIT_AUTOMAKE([foreign subdir-objects])\nAC_CONFIG_SRCDIR([src/main.c])\n"
       "AC_PROG_CC\nAC_CONFIG_FILES([Makefile src/Makefile conf/tide.pc])\nAC_OUTPUT\n"},
      {"Makefile.am", "SUBDIRS = src\nEXTRA_DIST = docs/manual.md\n"},
      {"src/Makefile.am",
       "bin_PROGRAMS = tide\ntide_SOURCES = main.c net/send.c net/send.h\nAM_CPPFLAGS = -I$(srcdir)/net\n"},
      {"src/main.c", "#include \"send.h\"\n"},
      {"src/net/send.c", "#include \"send.h\"\n"},
      {"src/net/send.h", ""},
      {"conf/tide.pc.in", ""},
      {"docs/manual.md", ""}};
  expect_edits({
      {"a source and its header",
       top,
       {{"src/net", "src/link"}},
       {"src/Makefile.am: net/send.c -> link/send.c", "src/Makefile.am: net/send.h -> link/send.h",
        "src/Makefile.am: /net -> /link"}},
      {"what configure looks for",
       top,
       {{"src/main.c", "src/app/main.c"}},
       {"configure.ac: src/main.c -> src/app/main.c", "src/Makefile.am: main.c -> app/main.c"}},
      {"a header that the folders to search no longer hold",
       top,
       {{"src/net/send.h", "api/pole/send.h"}},
       {"src/Makefile.am: net/send.h -> ../api/pole/send.h", "src/main.c: send.h -> ../api/pole/send.h",
        "src/net/send.c: send.h -> ../../api/pole/send.h"}},
      {"a template",
       top,
       {{"conf/tide.pc.in", "etc/tide.pc.in"}},
       {"configure.ac: conf/tide.pc -> etc/tide.pc"}},
      {"what is only distributed",
       top,
       {{"docs/manual.md", "manual/manual.md"}},
       {"Makefile.am: docs/manual.md -> manual/manual.md"}},
      {"a folder with its script",
       top,
       {{"src", "core"}},
       {"Makefile.am: src -> core", "configure.ac: src/main.c -> core/main.c",
        "configure.ac: src/Makefile -> core/Makefile"}},
  });
}

// A list names what a suffix rule makes, whose sources are found by their names alone.
TEST(BuildPlans, automake_suffix_rules) {
  const TreeFiles files = {
      {"configure.ac",
       "AC_INIT([tide], [1])\nAM_INIT_AUTOMAKE([foreign])\nAC_CONFIG_FILES([Makefile "
       "checks/Makefile])\nAC_OUTPUT\n"},
      {"Makefile.am", "SUBDIRS = checks\n"},
      {"checks/Makefile.am",
       "SUFFIXES = .tab .csv\ncheck_SCRIPTS = level.sh\ndist_check_DATA = tides.csv\nEXTRA_DIST = level.in "
       "tides.tab\n.in.sh: Makefile\n\tsed 's|@top@|$(top_builddir)|' $< > $@\n.tab.csv:\n\ttr '\\t' ',' < "
       "$< > $@\n"},
      {"checks/level.in", ""},
      {"checks/tides.tab", ""}};
  Plan plan = planned(files, {{"checks/level.in", "parts/level.in"}});
  EXPECT_THAT(reasons(plan), testing::ElementsAre("lost checks/Makefile.am"));
  EXPECT_THAT(plan.blockers[0].reason, testing::HasSubstr("a pattern rule finds it"));
  EXPECT_THAT(reasons(planned(files, {{"checks/tides.tab", "checks/water.tab"}})),
              testing::ElementsAre("lost checks/Makefile.am"));
  EXPECT_THAT(edits(planned(files, {{"checks", "tests"}})),
              testing::ElementsAre("Makefile.am: checks -> tests",
                                   "configure.ac: checks/Makefile -> tests/Makefile"));
}

TEST(BuildPlans, resources_and_side_files) {
  expect_edits({
      {"a bundle whose paths are names at run time gets aliases",
       {{"meson.build",
         "project('tide', 'c')\ngnome = import('gnome')\nr = gnome.compile_resources('res', "
         "'data/tide.gresource.xml', source_dir: 'data')\n"
         "executable('t', 'a.c', r)\n"},
        {"a.c", ""},
        {"data/tide.gresource.xml",
         "<gresources>\n  <gresource prefix=\"/tide\">\n    <file>icons/pole.svg</file>\n  "
         "</gresource>\n</gresources>\n"},
        {"data/icons/pole.svg", "<svg/>"}},
       {{"data/icons/pole.svg", "data/art/pole.svg"}},
       {"data/tide.gresource.xml:  ->  alias=\"icons/pole.svg\"",
        "data/tide.gresource.xml: icons/pole.svg -> art/pole.svg"}},
      {"settings of documentation",
       {{"Doxyfile",
         "PROJECT_NAME = tide\nINPUT = src include \\\n  docs/main.md\nEXAMPLE_PATH = examples\n"},
        {"src/a.c", ""},
        {"include/a.h", ""},
        {"docs/main.md", ""},
        {"examples/e.c", ""}},
       {{"src", "core"}, {"docs/main.md", "docs/start/main.md"}},
       {"Doxyfile: src -> core ?", "Doxyfile: docs/main.md -> docs/start/main.md ?"}},
      {"links of documents",
       {{"README.md",
         "See [the manual](docs/manual.md#tides), ![pole](art/pole.png \"a pole\") and [it][1].\n\n[1]: "
         "docs/manual.md\n"},
        {"docs/manual.md", "[home](../README.md) [pole](<../art/pole.png>)\n"},
        {"art/pole.png", ""}},
       {{"docs/manual.md", "manual/tides.md"}},
       {"README.md: docs/manual.md -> manual/tides.md", "README.md: docs/manual.md -> manual/tides.md"}},
      {"files to translate",
       {{"po/POTFILES.in", "src/a.c\nsrc/b.c\n"},
        {"src/a.c", ""},
        {"src/b.c", ""},
        {"meson.build", "project('t', 'c')\nexecutable('t', 'src/a.c', 'src/b.c')\n"}},
       {{"src/b.c", "src/net/b.c"}},
       {"meson.build: src/b.c -> src/net/b.c", "po/POTFILES.in: src/b.c -> src/net/b.c"}},
      {"a script of the linker that names others",
       {{"Makefile", "LDFLAGS = -T link/pole.ld\np: a.o\n\t$(CC) $(LDFLAGS) -o $@ $^\n"},
        {"a.c", ""},
        {"link/pole.ld", "INCLUDE link/memory.ld\nSECTIONS { }\n"},
        {"link/memory.ld", "MEMORY { }\n"}},
       {{"link", "boards/pole"}},
       {"Makefile: link/pole.ld -> boards/pole/pole.ld",
        "link/pole.ld: link/memory.ld -> boards/pole/memory.ld"}},
      {"what an assembler takes in",
       {{"Makefile", "p: start.o\n\t$(CC) -o $@ $^\n"},
        {"start.S", ".include \"asm/macros.inc\"\n.incbin \"data/table.bin\"\n"},
        {"asm/macros.inc", ""},
        {"data/table.bin", ""}},
       {{"asm", "src/asm"}, {"data/table.bin", "tables/table.bin"}},
       {"start.S: asm/macros.inc -> src/asm/macros.inc", "start.S: data/table.bin -> tables/table.bin"}},
  });
}

}  // namespace
}  // namespace yc::test
