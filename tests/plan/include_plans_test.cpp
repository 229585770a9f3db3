// Plans for includes of C and C++, a table: how they are found, and how they are spelled after a move.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

TreeFiles with_make(const std::string& flags, const TreeFiles& more) {
  TreeFiles out = {{"Makefile", "CPPFLAGS = " + flags + "\np: src/a.o src/b.o\n\t$(CC) -o $@ $^\n"}};
  out.insert(out.end(), more.begin(), more.end());
  return out;
}

TEST(IncludePlans, spelling) {
  expect_edits({
      {"relative ones stay relative",
       with_make("", {{"src/a.c", "#include \"../inc/t.h\"\n"}, {"src/b.c", ""}, {"inc/t.h", ""}}),
       {{"inc/t.h", "inc/net/t.h"}},
       {"src/a.c: ../inc/t.h -> ../inc/net/t.h"}},
      {"against a root, in angles",
       with_make("-Iinc", {{"src/a.c", "#include <t.h>\n"},
                           {"src/b.c", "#include \"t.h\"\n"},
                           {"inc/t.h", ""},
                           {"inc/u.h", ""}}),
       {{"inc/t.h", "inc/net/t.h"}},
       {"src/a.c: t.h -> net/t.h", "src/b.c: t.h -> net/t.h"}},
      {"a root that moves whole is edited once",
       with_make("-Iinc", {{"src/a.c", "#include <net/t.h>\n"}, {"src/b.c", ""}, {"inc/net/t.h", ""}}),
       {{"inc", "include"}},
       {"Makefile: inc -> include"}},
      {"a header beside its user",
       with_make("", {{"src/a.c", "#include \"a.h\"\n"},
                      {"src/b.c", ""},
                      {"src/a.h", "#include \"b.h\"\n"},
                      {"src/b.h", ""}}),
       {{"src/a.c", "core/a.c"}, {"src/a.h", "core/a.h"}},
       {"Makefile: src/a -> core/a", "src/a.h: b.h -> ../src/b.h"}},
      {"comments and blanks around it stay",
       with_make(
           "",
           {{"src/a.c", "#  include /* the tide */ \"t.h\" // here\n"}, {"src/b.c", ""}, {"src/t.h", ""}}),
       {{"src/t.h", "src/net/t.h"}},
       {"src/a.c: t.h -> net/t.h"}},
      {"what a conditional leaves out follows too",
       with_make("", {{"src/a.c", "#ifdef _WIN32\n#include \"win.h\"\n#else\n#include \"nix.h\"\n#endif\n"},
                      {"src/b.c", ""},
                      {"src/win.h", ""},
                      {"src/nix.h", ""}}),
       {{"src/win.h", "os/win.h"}, {"src/nix.h", "os/nix.h"}},
       {"src/a.c: win.h -> ../os/win.h", "src/a.c: nix.h -> ../os/nix.h"}},
      {"the guard of a header that is shaped like its path",
       with_make("-I.", {{"src/a.c", "#include \"net/tide.h\"\n"},
                         {"src/b.c", "#include \"net/wave.h\"\n"},
                         {"net/tide.h", "#ifndef NET_TIDE_H\n#define NET_TIDE_H\n#endif\n"},
                         {"net/wave.h", "#ifndef NET_WAVE_H\n#define NET_WAVE_H\n#endif\n"}}),
       {{"net/tide.h", "water/tide.h"}},
       {"net/tide.h: NET_TIDE_H -> WATER_TIDE_H", "net/tide.h: NET_TIDE_H -> WATER_TIDE_H",
        "src/a.c: net/tide.h -> water/tide.h"}},
      {"an installed header of the same name is another one",
       with_make(
           "",
           {{"src/a.c", "#include <stdio.h>\n"}, {"src/b.c", "#include \"stdio.h\"\n"}, {"src/stdio.h", ""}}),
       {{"src/stdio.h", "src/own/stdio.h"}},
       {"src/b.c: stdio.h -> own/stdio.h"}},
  });
}

TEST(IncludePlans, a_header_that_several_units_find_by_different_roots) {
  TreeFiles files = {
      {"Makefile", "all: one two\none: one.c\n\tcc -Ia -o one one.c\ntwo: two.c\n\tcc -Ib -o two two.c\n"},
      {"one.c", "#include \"user.h\"\n"},
      {"two.c", "#include \"user.h\"\n"},
      {"user.h", "#include <cfg.h>\n"},
      {"a/cfg.h", ""},
      {"a/x.h", ""},
      {"b/cfg.h", ""}};
  // Both keep their own: the shared header's include is not touched.
  EXPECT_THAT(edits(planned(files, {{"a", "conf/a"}, {"b", "conf/b"}})),
              ElementsAre("Makefile: a -> conf/a", "Makefile: b -> conf/b"));
  EXPECT_THAT(edits(planned(files, {{"user.h", "inc/user.h"}})),
              ElementsAre("Makefile:  ->  -Iinc", "Makefile:  ->  -Iinc"));
}

TEST(IncludePlans, a_move_that_would_change_what_an_include_finds) {
  TreeFiles files = with_make("-Ia -Ib", {{"src/a.c", "#include <t.h>\n"},
                                          {"src/b.c", ""},
                                          {"b/t.h", "int x;\n"},
                                          {"c/t.h", ""},
                                          {"a/u.h", ""}});
  // The other header would come to stand before it.
  EXPECT_THAT(reasons(planned(files, {{"c/t.h", "a/t.h"}})), ElementsAre("lost src/a.c"));
  EXPECT_THAT(edits(planned(files, {{"c/t.h", "a/net/t.h"}})), IsEmpty());
}

TEST(IncludePlans, a_header_in_angles_that_no_searched_folder_holds_any_more) {
  TreeFiles files = {
      {"Makefile", "p: a.c\n\tcc -Iinc -o p a.c\ninclude q.mk\n"},
      {"q.mk", "q: a.c\n\t./wrap.sh cc -Iinc -o q a.c\n"},
      {"a.c", "#include <t.h>\n"},
      {"inc/t.h", "#include <u.h>\n"},
      {"inc/u.h", ""},
      {"tide.vcxproj",
       "<Project xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\">\n<ItemDefinitionGroup>"
       "<ClCompile><AdditionalIncludeDirectories>inc</AdditionalIncludeDirectories></ClCompile>"
       "</ItemDefinitionGroup>\n<ItemGroup><ClCompile Include=\"a.c\" /></ItemGroup>\n</Project>\n"}};
  EXPECT_THAT(edits(planned(files, {{"inc/u.h", "net/u.h"}})),
              ElementsAre("inc/t.h: <u.h> -> \"../net/u.h\""));
}

TEST(IncludePlans, a_folder_made_for_headers_is_searched) {
  const std::string flat = "OBJS = tide.o\nprog: $(OBJS)\n\t$(CC) -o prog $(OBJS)\n";
  expect_edits({
      {"and includes stay",
       {{"Makefile", flat}, {"tide.c", "#include \"tide.h\"\n"}, {"tide.h", ""}},
       {{"tide.h", "include/tide.h"}},
       {"Makefile:  -> CPPFLAGS += -Iinclude\n"}},
      {"one that is searched already is enough",
       {{"Makefile", "CPPFLAGS = -Iinclude\n" + flat},
        {"tide.c", "#include \"tide.h\"\n"},
        {"tide.h", ""},
        {"include/a.h", ""}},
       {{"tide.h", "include/salt/tide.h"}},
       {"tide.c: tide.h -> salt/tide.h"}},
      {"what cannot stay is respelled as always",
       {{"Makefile", flat}, {"tide.c", "#include \"lib/tide.h\"\n"}, {"lib/tide.h", ""}},
       {{"lib/tide.h", "include/tide.h"}},
       {"tide.c: lib/tide.h -> include/tide.h"}},
      {"another folder is not",
       {{"Makefile", flat}, {"tide.c", "#include \"tide.h\"\n"}, {"tide.h", ""}},
       {{"tide.h", "net/tide.h"}},
       {"tide.c: tide.h -> net/tide.h"}},
  });
}

TEST(IncludePlans, where_a_folder_made_for_headers_cannot_be_searched_includes_are_respelled) {
  // Another source would find the other header by that.
  TreeFiles files = {{"Makefile", "p: a.c sub/b.c\n\tcc -o p a.c sub/b.c -Ilib\n"},
                     {"a.c", "#include \"t.h\"\n"},
                     {"t.h", ""},
                     {"sub/b.c", "#include <u.h>\n"},
                     {"lib/u.h", ""},
                     {"include/u.h", ""}};
  EXPECT_TRUE(planned(files, {{"t.h", "include/t.h"}}).verified);
}

TEST(IncludePlans, a_folder_made_for_headers_is_not_searched_where_includes_are_to_be_kept) {
  PlanOptions keep;
  keep.include_order = kKeepIncludes;
  Plan plan = planned({{"Makefile", "prog: tide.o\n\t$(CC) -o prog tide.o\n"},
                       {"tide.c", "#include \"tide.h\"\n"},
                       {"tide.h", ""}},
                      {{"tide.h", "include/tide.h"}}, keep);
  EXPECT_THAT(edits(plan), ElementsAre("tide.c: tide.h -> include/tide.h"));
}

TEST(IncludePlans, flags_that_a_side_of_a_conditional_sets_anew_search_it_too) {
  TreeFiles files = {
      {"Makefile",
       "FLAGS = -I. -DTIDE\ninclude host.mak\nEXTRA = -Iold\nprog: tide.o\n\t$(CC) -o prog tide.o\n"
       "%.o: %.c\n\t$(CC) $(FLAGS) $(EXTRA) -c -o $@ $<\n"},
      {"host.mak", "ifdef FLAT\n\tFLAGS = -I. -DFLAT\nendif\n"},
      {"old/a.h", ""},
      {"tide.c", "#include <tide.h>\n"},
      {"tide.h", ""}};
  EXPECT_THAT(edits(planned(files, {{"tide.h", "include/tide.h"}})), ElementsAre("Makefile:  ->  -Iinclude"))
      << "one line that all have is enough";
  std::string& makefile = files[0].second;
  makefile.replace(makefile.find("EXTRA = -Iold\n"), 14, "");
  EXPECT_THAT(edits(planned(files, {{"tide.h", "include/tide.h"}})),
              ElementsAre("Makefile:  ->  -Iinclude", "host.mak:  ->  -Iinclude"));
}

TEST(IncludePlans, flags_that_makefiles_of_other_folders_share_are_left) {
  const std::string prog =
      "include ../common.mk\nprog: t.o\n\t$(CC) -o prog t.o\n%.o: %.c\n\t$(CC) $(FLAGS) -c -o $@ $<\n";
  TreeFiles files = {{"common.mk", "FLAGS = -I. -DTIDE\n"},
                     {"a/Makefile", prog},
                     {"a/t.c", "#include <tide.h>\n"},
                     {"a/tide.h", ""},
                     {"b/Makefile", prog},
                     {"b/t.c", ""}};
  EXPECT_THAT(edits(planned(files, {{"a/tide.h", "a/include/tide.h"}})),
              testing::Each(testing::Not(testing::HasSubstr("common.mk"))));
}

TEST(IncludePlans, units_that_change_places_find_headers_each_as_before) {
  TreeFiles files = {{"a/Makefile", "p: ../src/t.c\n\tcc -I../inc -o p ../src/t.c\n"},
                     {"b/Makefile", "q: ../src/t.c\n\tcc -o q ../src/t.c\n"},
                     {"src/t.c", "#include <t.h>\n"},
                     {"inc/t.h", ""}};
  Plan plan = planned(files, {{"a", "z"}, {"inc", "inc2"}});
  EXPECT_TRUE(plan.verified);
  EXPECT_THAT(edits(plan), ElementsAre("a/Makefile: ../inc -> ../inc2"));
}

TEST(IncludePlans, a_header_that_a_script_takes_from_elsewhere) {
  TreeFiles files = {
      {"Makefile", "p: a.c\n\tcc -Iinclude -o p a.c\n"},
      {"a.c", "#include <tide/t.h>\n"},
      {"include/tide/t.h", ""},
      {"tests/Makefile",
       "CFLAGS = $(shell pkg-config --cflags tide)\nuse: use.c\n\tcc $(CFLAGS) -o use use.c\n"},
      {"tests/use.c", "#include \"tide/t.h\"\n"}};
  Plan plan = planned(files, {{"include/tide/t.h", "core/t.h"}});
  EXPECT_THAT(
      in_the_way(plan),
      ElementsAre(
          "tests/use.c \"tide/t.h\" may mean include/tide/t.h, which moves; no folder that its build script "
          "searches holds it, so it is not rewritten"));
  PlanOptions accepting;
  accepting.accept_unseen = true;
  EXPECT_THAT(edits(planned(files, {{"include/tide/t.h", "core/t.h"}}, accepting)),
              ElementsAre("Makefile:  ->  -Icore", "a.c: tide/t.h -> t.h"));
}

TEST(IncludePlans, sources_that_include_sources) {
  TreeFiles files = {{"Makefile", "p: all.o\n\t$(CC) -o $@ $^\n"},
                     {"all.c", "#include \"src/a.c\"\n#include \"src/b.c\"\n"},
                     {"src/a.c", "#include \"a.h\"\n"},
                     {"src/b.c", ""},
                     {"src/a.h", ""}};
  EXPECT_THAT(edits(planned(files, {{"src/a.c", "lib/a.c"}})),
              ElementsAre("all.c: src/a.c -> lib/a.c", "src/a.c: a.h -> ../src/a.h"));
}

}  // namespace
}  // namespace yc::test
