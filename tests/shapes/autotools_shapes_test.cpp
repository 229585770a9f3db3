// Shapes of Autotools projects as they are met in the wild: each is moved, built anew with the real tools,
// and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const char* const kLevelC = "#include \"level.h\"\nint level(void) { return LEVEL; }\n";
const char* const kLevelH = "#ifndef LEVEL\n#define LEVEL 7\n#endif\nint level(void);\n";
const char* const kMainC =
    "#include <stdio.h>\n#include \"level.h\"\nint main(void) { printf(\"%d\\n\", level()); return 0; }\n";
const std::string kBuild = "autoreconf -fi >/dev/null 2>&1 && ./configure -q && make -s >/dev/null";
const std::string kRun = kBuild + " && find . -name station -type f -exec {} \\;";

std::string configure(const std::string& more) {
  return "AC_INIT([tide], [1.0])\nAM_INIT_AUTOMAKE([foreign subdir-objects])\nAC_PROG_CC\n" + more +
         "AC_OUTPUT\n";
}

TEST(AutotoolsShapes, flat_program_goes_to_src_and_include) {
  Workspace tree(
      Files{{"configure.ac", configure("AC_CONFIG_SRCDIR([main.c])\nAC_CONFIG_FILES([Makefile])\n")},
            {"Makefile.am", "bin_PROGRAMS = station\nstation_SOURCES = main.c level.c \\\n\tlevel.h\n"},
            {"main.c", kMainC},
            {"level.c", kLevelC},
            {"level.h", kLevelH}});
  Outcome moved = expect_move_keeps_build(
      tree, "main.c -> src/main.c\nlevel.c -> src/level.c\nlevel.h -> include/level.h\n", kRun);
  EXPECT_NE(moved.out.find("AC_CONFIG_SRCDIR([src/main.c])"), std::string::npos) << moved.told;
}

// The script that configure is made of lies in a folder below; its paths are from where configure is.
TEST(AutotoolsShapes, a_script_below_is_started_where_configure_is) {
  Workspace tree(Files{{"conf/configure.in",
                        "AC_INIT([tide], [1.0])\nAC_CONFIG_SRCDIR([main.c])\nAC_PROG_CC\n"
                        "AC_CONFIG_FILES([Makefile:conf/Makefile.in:conf/rules.mk])\nAC_OUTPUT\n"},
                       {"conf/Makefile.in", "all: station\n"},
                       {"conf/rules.mk", "station: main.c\n\t@CC@ -o $@ main.c\n"},
                       {"configure", "made anew below\n"},
                       {"main.c", "int main(void) { return 0; }\n"}});
  const std::string build =
      "autoconf -f -o configure conf/configure.in && sh ./configure -q && make -s && ./station";
  expect_move_says(tree, "conf/rules.mk -> make/rules.mk\n",
                   {"AC_CONFIG_FILES([Makefile:conf/Makefile.in:make/rules.mk])"}, build);
}

TEST(AutotoolsShapes, folders_with_scripts_of_their_own_move) {
  Workspace tree(
      Files{{"configure.ac",
             configure("AC_CONFIG_MACRO_DIRS([m4])\nAC_CONFIG_HEADERS([config.h])\n"
                       "TIDE_CHECK\nAC_CONFIG_FILES([Makefile\n  src/Makefile\n  src/version.h])\n")},
            {"Makefile.am", "SUBDIRS = src\nACLOCAL_AMFLAGS = -I m4\nEXTRA_DIST = data/levels.txt\n"},
            {"m4/tide.m4", "AC_DEFUN([TIDE_CHECK], [AC_MSG_CHECKING([the tide])\nAC_MSG_RESULT([high])])\n"},
            {"data/levels.txt", "7\n"},
            {"src/version.h.in", "#define VERSION_TEXT \"@PACKAGE_VERSION@\"\n"},
            {"src/Makefile.am",
             "AM_CPPFLAGS = -I$(top_srcdir)/inc\nbin_PROGRAMS = station\nstation_SOURCES = main.c "
             "../lib/level.c\n"},
            {"src/main.c", "#include \"../config.h\"\n#include \"version.h\"\n" + std::string(kMainC)},
            {"lib/level.c", kLevelC},
            {"inc/level.h", kLevelH}});
  expect_move_keeps_build(
      tree,
      "src/ -> gauge/station/\nm4/ -> support/m4/\ninc/ -> lib/inc/\ndata/levels.txt -> share/levels.txt\n",
      kRun);
}

TEST(AutotoolsShapes, a_program_without_a_list_gets_one) {
  Workspace tree(Files{{"configure.ac", configure("AC_CONFIG_FILES([Makefile])\n")},
                       {"Makefile.am", "bin_PROGRAMS = station\n"},
                       {"station.c", "#include <stdio.h>\nint main(void) { puts(\"7\"); return 0; }\n"}});
  Outcome moved = expect_move_keeps_build(tree, "station.c -> src/station.c\n", kRun);
  EXPECT_NE(moved.out.find("station_SOURCES = src/station.c"), std::string::npos) << moved.told;
}

TEST(AutotoolsShapes, a_template_moves_and_what_it_fills_in_stays) {
  Workspace tree(Files{
      {"configure.ac",
       configure("AC_CONFIG_HEADERS([config.h])\nAC_CONFIG_FILES([Makefile\n  data/tide.pc])\n")},
      {"Makefile.am",
       "bin_PROGRAMS = station\nstation_SOURCES = main.c level.c level.h\npkgdata_DATA = data/tide.pc\n"},
      {"data/tide.pc.in", "Version: @PACKAGE_VERSION@\n"},
      {"data/levels.txt", "7\n"},
      {"main.c", "#include \"config.h\"\n" + std::string(kMainC)},
      {"level.c", kLevelC},
      {"level.h", kLevelH}});
  Outcome moved = expect_move_keeps_build(tree, "data/tide.pc.in -> templates/tide.pc.in\n",
                                          kRun + " && cat data/tide.pc");
  EXPECT_NE(moved.out.find("data/tide.pc:templates/tide.pc.in"), std::string::npos) << moved.told;
}

TEST(AutotoolsShapes, a_library_of_another_folder_is_found_where_it_went) {
  Workspace tree(
      Files{{"configure.ac", configure("AC_PROG_RANLIB\nAM_PROG_AR\nAC_CONFIG_FILES([Makefile water/Makefile "
                                       "src/Makefile data/tide.pc])\n")},
            {"Makefile.am", "SUBDIRS = water src\npkgdata_DATA = data/tide.pc\n"},
            {"data/tide.pc.in", "Version: @PACKAGE_VERSION@\n"},
            {"water/Makefile.am", "noinst_LIBRARIES = libwater.a\nlibwater_a_SOURCES = level.c level.h\n"},
            {"water/level.c", kLevelC},
            {"water/level.h", kLevelH},
            {"src/Makefile.am",
             "AM_CPPFLAGS = -I$(top_srcdir)/water\nbin_PROGRAMS = station\nstation_SOURCES = main.c\n"
             "station_LDADD = ../water/libwater.a\n"},
            {"src/main.c", kMainC}});
  expect_move_keeps_build(tree, "water/ -> lib/water/\ndata/ -> share/data/\n", kRun);
}

// For all units at once, and where automake is told to have no folder searched by itself.
TEST(AutotoolsShapes, common_library_and_no_default_roots) {
  Workspace tree(
      Files{{"configure.ac",
             "AC_INIT([tide], [1.0])\nAM_INIT_AUTOMAKE([foreign nostdinc "
             "subdir-objects])\nAC_PROG_CC\nAC_PROG_RANLIB\n"
             "AM_PROG_AR\nAC_CONFIG_FILES([Makefile lib/Makefile prog/Makefile])\nAC_OUTPUT\n"},
            {"Makefile.am", "SUBDIRS = lib prog\n"},
            {"lib/Makefile.am", "noinst_LIBRARIES = liblevel.a\nliblevel_a_SOURCES = level.c\n"},
            {"lib/level.c", kLevelC},
            {"lib/level.h", kLevelH},
            {"prog/Makefile.am",
             "LDADD = $(top_builddir)/lib/liblevel.a\nbin_PROGRAMS = station\nstation_SOURCES = main.c\n"},
            {"prog/level.h", "#include \"../lib/level.h\"\n"},
            {"prog/main.c", kMainC}});
  expect_move_keeps_build(tree, "lib/ -> parts/lib/\n", kRun);
  expect_move_keeps_build(tree, "prog/main.c -> core/main.c\n", kRun);
}

TEST(AutotoolsShapes, two_programs_without_lists_get_theirs) {
  Workspace tree(
      Files{{"configure.ac", configure("AC_CONFIG_HEADERS([config.h])\nAC_CONFIG_FILES([Makefile])\n")},
            {"config.h.in", "/* @tide@ */\n"},
            {"Makefile.am", "noinst_PROGRAMS = low high\n"},
            {"low.c", "#include \"config.h\"\nint main(void) { return 0; }\n"},
            {"high.c", "int main(void) { return 0; }\n"}});
  expect_move_keeps_build(tree,
                          "low.c -> src/low.c\nhigh.c -> src/high.c\nconfig.h.in -> build-aux/config.h.in\n",
                          kBuild + " && ls low high");
}

TEST(AutotoolsShapes, what_configure_looks_for_by_itself_stays) {
  Workspace tree(
      Files{{"configure.ac", configure("AC_CONFIG_AUX_DIR([build-aux])\nAC_CONFIG_FILES([Makefile])\n")},
            {"Makefile.am", "EXTRA_DIST = README\n"},
            {"README", "tide\n"},
            {"build-aux/install-sh", "#!/bin/sh\n"},
            {"build-aux/missing", "#!/bin/sh\n"}});
  expect_refusal(tree, "build-aux/install-sh -> tools/install-sh\n",
                 {"configure.ac:", "install-sh", "finds there by its name"});
}

TEST(AutotoolsShapes, what_is_generated_from_a_changed_script_is_told) {
  Workspace tree(
      Files{{"configure.ac", configure("AC_CONFIG_SRCDIR([main.c])\nAC_CONFIG_FILES([Makefile])\n")},
            {"configure", "#!/bin/sh\n"},
            {"Makefile.am", "bin_PROGRAMS = station\nstation_SOURCES = main.c\n"},
            {"main.c", "int main(void) { return 0; }\n"}});
  Outcome moved = tree.run({"move", "main.c", "src/", "--preview"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(moved.out.find("configure: is generated from configure.ac"), std::string::npos) << moved.told;
  EXPECT_NE(moved.out.find("autoreconf -fi"), std::string::npos) << moved.told;
  EXPECT_NE(moved.out.find("once what is generated is made anew"), std::string::npos) << moved.told;
}

// Who builds elsewhere than in the sources finds no header by way of the build tree.
TEST(AutotoolsShapes, folder_of_the_build_tree_is_none_of_the_sources) {
  Workspace tree(
      Files{{"configure.ac", configure("AC_CONFIG_FILES([Makefile src/Makefile])\n")},
            {"Makefile.am", "SUBDIRS = src\n"},
            {"src/Makefile.am",
             "bin_PROGRAMS = station\nstation_SOURCES = main.c level.h\nAM_CPPFLAGS = -I$(top_builddir)\n"},
            {"src/main.c", "#include \"level.h\"\nint main(void) { return LEVEL; }\n"},
            {"src/level.h", "#define LEVEL 0\n"}});
  expect_move_keeps_build(tree, "src/level.h -> include/level.h\n",
                          "autoreconf -fi && mkdir out && cd out && ../configure -q && make -s");
}

// The folder of config.h is one of the build tree: what is written lies there only for who builds in place.
TEST(AutotoolsShapes, a_folder_that_is_searched_only_where_it_is_built_in_place) {
  Workspace tree(
      Files{{"configure.ac",
             "AC_INIT([tide], [1.0])\nAM_INIT_AUTOMAKE([foreign])\nAC_PROG_CC\n"
             "AC_CONFIG_HEADERS([config.h])\nAC_CONFIG_FILES([Makefile src/Makefile])\nAC_OUTPUT\n"},
            {"Makefile.am", "SUBDIRS = src\n"},
            {"src/Makefile.am", "bin_PROGRAMS = station\nstation_SOURCES = main.c level.h\n"},
            {"src/main.c", "#include <config.h>\n#include \"level.h\"\nint main(void) { return LEVEL; }\n"},
            {"src/level.h", "#define LEVEL 0\n"}});
  expect_move_says(tree, "src/level.h -> level.h\n", {"#include \"../level.h\""},
                   "(autoreconf -fi && mkdir out && cd out && ../configure -q && make -s) >/dev/null 2>&1");
}

TEST(AutotoolsShapes, macros_that_aclocal_took_in_are_found_where_they_go) {
  Workspace tree(
      Files{{"configure.ac", "AC_INIT([tide], [1.0])\nAC_CONFIG_MACRO_DIR([m4])\nTIDE_LEVEL\nAC_OUTPUT\n"},
            {"Makefile.am", "ACLOCAL_AMFLAGS = -I m4\nEXTRA_DIST = README\n"},
            {"README", "tide\n"},
            {"aclocal.m4", "m4_include([m4/level.m4])\n"},
            {"m4/level.m4", "AC_DEFUN([TIDE_LEVEL], [echo level])\n"}});
  expect_move_says(tree, "m4 -> config/m4\n", {"m4_include([config/m4/level.m4])"},
                   "autoconf -o - configure.ac >/dev/null");
}

TEST(AutotoolsShapes, a_template_that_is_installed_still_finds_headers_there) {
  Workspace tree(Files{{"configure.ac", configure("AC_CONFIG_FILES([Makefile tide.h])\n")},
                       {"Makefile.am",
                        "bin_PROGRAMS = station\nstation_SOURCES = main.c\n"
                        "pkginclude_HEADERS = tide.h level.h\n"},
                       {"tide.h.in", "#include \"level.h\"\nint tide(void);\n"},
                       {"level.h", "#define LEVEL 0\n"},
                       {"main.c", "#include \"tide.h\"\nint main(void) { return LEVEL; }\n"}});
  expect_move_keeps_build(tree, "level.h -> util/level.h\n",
                          kBuild +
                              " && make -s install DESTDIR=$PWD/image >/dev/null && "
                              "echo '#include \"tide.h\"' > user.c && cc -fsyntax-only "
                              "-I$(dirname $(find image -name tide.h)) user.c");
}

}  // namespace
}  // namespace yc::test
