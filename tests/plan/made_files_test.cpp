// Files that a build makes, and what names them: in plans on small trees.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

// A text that equals the rule's target, and is not $@, must follow it by itself.
TEST(MadeFiles, recipes_that_spell_their_target_again) {
  for (std::string recipe :
       {"cat lib/in > lib/out", "cat lib/in >>lib/out", "echo a >lib/out", "(echo a; cat lib/in) >lib/out",
        "cp lib/in lib/out", "cat lib/in | tee lib/out", "$(CC) -c lib/in -o lib/out",
        "printf a >lib/out.tmp && mv lib/out.tmp lib/out", "rm -f lib/out; touch lib/out",
        "dd if=lib/in of=lib/out", "awk '{ print > \"lib/out\" }' lib/in",
        "python3 -c \"open('lib/out', 'w').write(open('lib/in').read())\"", "tar -C lib -cf lib/out in"}) {
    std::string makefile = "lib/out: lib/in\n\t" + recipe + "\n";
    TreeFiles files = {{"Makefile", makefile}, {"lib/in", ""}};
    Plan plan = planned(files, {{"lib", "nested/lib"}});
    ASSERT_TRUE(plan.verified) << recipe;
    std::string after = carried_out(files, plan)[0].second;
    for (std::size_t found = after.find("lib/"); found != std::string::npos;
         found = after.find("lib/", found + 1))
      EXPECT_EQ(after.substr(found < 7 ? 0 : found - 7, 7), "nested/") << after;
  }
}

TEST(MadeFiles, recipes_that_put_their_target_together_of_its_stem) {
  expect_edits({{"in a static pattern rule",
                 {{"Makefile", "O = lib/a.out\n$(O): lib/%.out: lib/%.in\n\tcat lib/$*.in > lib/$*.out\n"},
                  {"lib/a.in", ""}},
                 {{"lib", "lib2"}},
                 {"Makefile: lib/a.out -> lib2/a.out", "Makefile: lib/ -> lib2/", "Makefile: lib/ -> lib2/",
                  "Makefile: lib/ -> lib2/ ?", "Makefile: lib/ -> lib2/ ?"}}});
}

// The archive is named from where tar starts, what goes into it from the folder.
TEST(MadeFiles, what_tar_takes_from_a_folder) {
  expect_edits(
      {{"one of them leaves",
        {{"Makefile", "out.tar: lib/in\n\ttar -C lib -cf out.tar in\n"}, {"lib/in", ""}, {"lib/more", ""}},
        {{"lib/in", "lib/sub/in"}},
        {"Makefile: lib/in -> lib/sub/in", "Makefile: in -> sub/in ?"}}});
}

TEST(MadeFiles, what_includes_a_header_that_is_made_waits_for_the_rule_to_follow) {
  expect_edits(
      {{"made among the sources by make, and in the build tree by Meson",
        {{"Makefile",
          "lib/config.h: lib/config.h.in\n\tcp lib/config.h.in $@\napp/tide.o: app/tide.c lib/config.h\n"
          "\t$(CC) -Ilib -c app/tide.c -o $@\n"},
         {"meson.build",
          "project('tide', 'c')\ninc = include_directories('lib')\nsubdir('lib')\nsubdir('app')\n"},
         {"lib/meson.build", "configure_file(input: 'config.h.in', output: 'config.h', configuration: {})\n"},
         {"lib/config.h.in", ""},
         {"app/meson.build", "executable('tide', 'tide.c', include_directories: inc)\n"},
         {"app/tide.c", "#include \"config.h\"\n"}},
        {{"lib", "nested/lib"}},
        {"Makefile: lib/config.h -> nested/lib/config.h",
         "Makefile: lib/config.h.in -> nested/lib/config.h.in",
         "Makefile: lib/config.h.in -> nested/lib/config.h.in ?",
         "Makefile: lib/config.h -> nested/lib/config.h", "Makefile: lib -> nested/lib",
         "meson.build: lib -> nested/lib", "meson.build: lib -> nested/lib"}}});
}

TEST(MadeFiles, what_cmake_writes_among_the_sources) {
  const std::string top = "${CMAKE_SOURCE_DIR}/";
  expect_edits(
      {{"by a command, and listed as a source",
        {{"CMakeLists.txt", "add_custom_command(OUTPUT " + top + "lib/out.c COMMAND cp " + top + "lib/in.c " +
                                top + "lib/out.c DEPENDS lib/in.c)\nadd_library(a lib/out.c)\n"},
         {"lib/in.c", ""}},
        {{"lib", "nested/lib"}},
        {"CMakeLists.txt: /lib/out.c -> /nested/lib/out.c", "CMakeLists.txt: /lib/in.c -> /nested/lib/in.c ?",
         "CMakeLists.txt: /lib/out.c -> /nested/lib/out.c ?", "CMakeLists.txt: lib/in.c -> nested/lib/in.c",
         "CMakeLists.txt: lib/out.c -> nested/lib/out.c"}},
       {"when it configures",
        {{"CMakeLists.txt",
          "file(READ lib/in.c v)\nfile(WRITE " + top + "lib/out.c \"${v}\")\nadd_library(a lib/out.c)\n"},
         {"lib/in.c", ""}},
        {{"lib", "nested/lib"}},
        {"CMakeLists.txt: lib/in.c -> nested/lib/in.c", "CMakeLists.txt: /lib/out.c -> /nested/lib/out.c",
         "CMakeLists.txt: lib/out.c -> nested/lib/out.c"}}});
}

// One source, compiled once for each header that a macro stands for.
TEST(MadeFiles, a_macro_that_is_another_header_in_each_unit_is_no_reason_to_refuse) {
  TreeFiles files = {
      {"meson.build",
       "project('tide', 'c')\nforeach h : [['a', 'level.h'], ['b', 'gauge.h']]\n"
       "  executable(h[0], 'test.c', c_args: ['-DHEADER=\"@0@\"'.format(h[1])])\nendforeach\n"},
      {"level.h", ""},
      {"gauge.h", ""},
      {"test.c", "#include HEADER\n"},
      {"docs/notes.txt", ""}};
  EXPECT_THAT(edits(planned(files, {{"docs", "notes"}})), ::testing::IsEmpty());
}

}  // namespace
}  // namespace yc::test
