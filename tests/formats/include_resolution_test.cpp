// Where includes lead: in the contexts that scripts give, and without any.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

using Files = std::vector<std::pair<std::string, std::string>>;

std::vector<std::string> includes(Files files) {
  return dump(read(tree_of(files)), Role::include);
}

std::vector<std::string> dangling(Files files) {
  std::vector<std::string> out;
  ReferenceGraph graph = read(tree_of(files));
  for (const Reference& reference : graph.references) {
    if (reference.role == Role::include && reference.dangling) out.push_back(reference.text.text());
  }
  return out;
}

TEST(IncludeResolution, own_folder_comes_before_search_roots_for_quotes_only) {
  Files files = {
      {"Makefile", "p: src/a.o\n%.o: %.c\n\tcc -Iinc -c -o $@ $<\n"}, {"src/x.h", ""}, {"inc/x.h", ""}};
  files.push_back({"src/a.c", "#include \"x.h\"\n"});
  EXPECT_THAT(includes(files), ElementsAre("x.h -> src/x.h"));
  files.back().second = "#include <x.h>\n";
  EXPECT_THAT(includes(files), ElementsAre("x.h -> inc/x.h"));
}

TEST(IncludeResolution, roots_are_searched_in_order_and_iquote_serves_quotes_first) {
  Files files = {{"a.c", "#include \"x.h\"\n#include <x.h>\n"}, {"one/x.h", ""}, {"two/x.h", ""}};
  files.push_back({"Makefile", "p: a.o\n%.o: %.c\n\tcc -Ione -Itwo -c -o $@ $<\n"});
  EXPECT_THAT(includes(files), ElementsAre("x.h -> one/x.h"));
  files.back().second = "p: a.o\n%.o: %.c\n\tcc -Ione -iquote two -c -o $@ $<\n";
  EXPECT_THAT(includes(files), ElementsAre("x.h -> one/x.h", "x.h -> two/x.h"));
}

TEST(IncludeResolution, include_next_goes_on_after_the_folder_of_its_file) {
  EXPECT_THAT(includes({{"Makefile", "p: a.o\n%.o: %.c\n\tcc -Iwrap -Ireal -c -o $@ $<\n"},
                        {"a.c", "#include <tide.h>\n"},
                        {"wrap/tide.h", "#include_next <tide.h>\n"},
                        {"real/tide.h", ""}}),
              ElementsAre("tide.h -> real/tide.h", "tide.h -> wrap/tide.h"));
}

TEST(IncludeResolution, header_means_what_each_of_its_units_makes_it_mean) {
  EXPECT_THAT(includes({{"one/Makefile", "p: a.o\n%.o: %.c\n\tcc -I../shared -Iport -c -o $@ $<\n"},
                        {"two/Makefile", "p: b.o\n%.o: %.c\n\tcc -I../shared -Iport -c -o $@ $<\n"},
                        {"one/a.c", "#include <all.h>\n"},
                        {"two/b.c", "#include <all.h>\n"},
                        {"shared/all.h", "#include <pins.h>\n"},
                        {"one/port/pins.h", ""},
                        {"two/port/pins.h", ""}}),
              ElementsAre("all.h -> shared/all.h", "pins.h -> one/port/pins.h two/port/pins.h"));
}

TEST(IncludeResolution, without_a_script_the_one_file_that_fits_is_likely) {
  EXPECT_THAT(includes({{"src/a.c", "#include \"deep/x.h\"\n"}, {"lib/deep/x.h", ""}}),
              ElementsAre("deep/x.h -> lib/deep/x.h ?"));
  EXPECT_THAT(includes({{"src/a.c", "#include \"x.h\"\n"}, {"one/x.h", ""}, {"two/x.h", ""}}), IsEmpty());
  EXPECT_THAT(includes({{"src/a.c", "#include <string.h>\n"}, {"lib/string.h", ""}}), IsEmpty());
}

TEST(IncludeResolution, macros_lead_where_their_one_path_leads) {
  EXPECT_THAT(includes({{"a.c", "#define PORT \"port/x.h\"\n#include PORT\n"}, {"port/x.h", ""}}),
              ElementsAre("port/x.h -> port/x.h"));
  EXPECT_THAT(includes({{"Makefile", "p: a.o\n%.o: %.c\n\tcc -DPORT='\"port/x.h\"' -c -o $@ $<\n"},
                        {"a.c", "#include PORT\n"},
                        {"port/x.h", ""}}),
              ElementsAre("port/x.h -> port/x.h"));
  EXPECT_THAT(includes({{"a.c", "#include PORT\n"},
                        {"one.h", "#define PORT \"x.h\"\n"},
                        {"two.h", "#define PORT \"y.h\"\n"},
                        {"x.h", ""},
                        {"y.h", ""}}),
              IsEmpty());
}

TEST(IncludeResolution, only_a_quoted_include_of_the_tree_can_be_missing) {
  EXPECT_THAT(dangling({{"a.c", "#include \"gone.h\"\n#include <elsewhere.h>\n#include \"stdio.h\"\n"}}),
              ElementsAre("gone.h"));
  EXPECT_THAT(dangling({{"a.c", "#if __has_include(\"maybe.h\")\n#endif\n"}}), IsEmpty());
}

TEST(IncludeResolution, cycles_end) {
  EXPECT_THAT(includes({{"a.h", "#include \"b.h\"\n"}, {"b.h", "#include \"a.h\"\n#include \"b.h\"\n"}}),
              ElementsAre("a.h -> a.h", "b.h -> b.h"));
}

// What is found in the build tree, by its path there.
std::vector<std::string> made(Files files) {
  std::vector<std::string> out;
  ReferenceGraph graph = read(tree_of(files));
  for (const Reference& reference : graph.references) {
    for (const Target& target : reference.targets) {
      if (reference.role == Role::include && target.kind == Target::Kind::build)
        out.push_back(reference.text.text() + " -> " + target.path.str());
    }
  }
  return out;
}

TEST(IncludeResolution, what_scripts_make_is_found_in_the_build_tree) {
  const std::string meson =
      "project('p', 'c')\nconfigure_file(output: 'config.h', configuration: conf)\nsubdir('src')\n";
  EXPECT_THAT(made({{"meson.build", meson},
                    {"src/meson.build", "executable('p', 'a.c')\n"},
                    {"src/a.c", "#include \"../config.h\"\n"}}),
              ElementsAre("../config.h -> config.h"));
  EXPECT_THAT(made({{"CMakeLists.txt",
                     "configure_file(v.h.in v.h)\ninclude_directories(${CMAKE_CURRENT_BINARY_DIR})\n"
                     "add_executable(p a.c)\n"},
                    {"v.h.in", ""},
                    {"a.c", "#include <v.h>\n"}}),
              ElementsAre("v.h -> v.h"));
  EXPECT_THAT(made({{"configure.ac", "AC_CONFIG_HEADERS([config.h])\n"},
                    {"Makefile.am", "bin_PROGRAMS = p\np_SOURCES = a.c\n"},
                    {"a.c", "#include \"config.h\"\n"}}),
              ElementsAre("config.h -> config.h"));
}

TEST(IncludeResolution, a_file_of_the_tree_comes_before_what_is_made_in_a_later_root) {
  EXPECT_THAT(
      made({{"meson.build",
             "project('p', 'c')\nconfigure_file(output: 'config.h', configuration: conf)\nsubdir('src')\n"},
            {"src/meson.build", "executable('p', 'a.c', include_directories: '..')\n"},
            {"src/config.h", ""},
            {"src/a.c", "#include \"config.h\"\n"}}),
      IsEmpty());
}

TEST(IncludeResolution, what_a_script_makes_in_ways_nobody_knows_is_guessed_by_its_folder) {
  EXPECT_THAT(
      made({{"meson.build", "project('p', 'c')\nsubdir('service')\nexecutable('p', 'a.c')\n"},
            {"service/meson.build", "import('dbus').something_new('api')\n"},
            {"a.c", "#include \"service/api.h\"\n#include <service/other.h>\n#include \"nowhere/x.h\"\n"}}),
      ElementsAre("service/api.h -> service/api.h"));
}

TEST(IncludeResolution, a_bare_name_in_a_string_is_no_file_that_is_yet_to_come) {
  ReferenceGraph graph = read(
      tree_of({{"tests/a.c", "const char *p = \"./out.txt\", *q = \"data/out.txt\";\n"}, {"data/x", ""}}));
  std::vector<std::string> texts;
  for (const Reference& reference : graph.references) texts.push_back(reference.text.text());
  EXPECT_THAT(texts, ElementsAre("data/out.txt"));
}

}  // namespace
}  // namespace yc::test
