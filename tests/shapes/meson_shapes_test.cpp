// Shapes of Meson projects as they are met in the wild: each is moved, built with Meson, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const char* const kHead = "project('tide', 'c')\n";
const char* const kLevelC = "#include \"level.h\"\nint level(void) { return LEVEL; }\n";
const char* const kLevelH = "#ifndef LEVEL\n#define LEVEL 7\n#endif\nint level(void);\n";
const char* const kMainC =
    "#include <stdio.h>\n#include \"level.h\"\nint main(void) { printf(\"%d\\n\", level()); return 0; }\n";
const std::string kBuild = "meson setup out >/dev/null && ninja -C out >/dev/null";
const std::string kRun = kBuild + " && find out -name station -type f -exec {} \\;";
const std::string kTest =
    kBuild +
    " && meson test -C out --num-processes 1 | grep -E '^ok|^[0-9]+/|Ok:|Fail:' | sed 's/ *[0-9.]*s$//'";

Files station(const std::string& script, const std::string& folder = "") {
  return {{"meson.build", kHead + script},
          {folder + "main.c", kMainC},
          {folder + "level.c", kLevelC},
          {folder + "level.h", kLevelH}};
}

// Two tests, the names of whose sources are made of their own.
Files tests_in_a_loop() {
  return {{"meson.build", std::string(kHead) + "foreach name : ['low', 'high']\n"
                                               "  test(name, executable(name, 'test-@0@.c'.format(name)))\n"
                                               "endforeach\n"},
          {"test-low.c", "int main(void) { return 0; }\n"},
          {"test-high.c", "int main(void) { return 0; }\n"}};
}

void expect_line(const Workspace& tree, const std::string& sheet, const std::string& build,
                 const std::string& line) {
  Outcome moved = expect_move_keeps_build(tree, sheet, build);
  EXPECT_NE(moved.out.find(line), std::string::npos) << moved.told;
}

TEST(MesonShapes, flat_program_goes_to_src_and_include) {
  expect_line(Workspace(station("executable('station', 'main.c', 'level.c')\n")),
              "main.c -> src/main.c\nlevel.c -> src/level.c\nlevel.h -> include/level.h\n", kRun,
              "executable('station', 'src/main.c', 'src/level.c'");
}

TEST(MesonShapes, list_keeps_its_layout_and_comments) {
  expect_line(Workspace(station(
                  "sources = [\n  'main.c',\n  'level.c', # water\n]\nexecutable('station', sources)\n")),
              "level.c -> src/level.c\n", kRun, "  'src/level.c', # water");
}

TEST(MesonShapes, a_folder_with_its_own_script_moves_whole) {
  Workspace tree(Files{{"meson.build", std::string(kHead) + "subdir('src')\n"},
                       {"src/meson.build", "executable('station', 'main.c', 'level.c')\n"},
                       {"src/main.c", kMainC},
                       {"src/level.c", kLevelC},
                       {"src/level.h", kLevelH}});
  expect_line(tree, "src/ -> gauge/station/\n", kRun, "subdir('gauge/station')");
}

TEST(MesonShapes, a_source_leaves_the_folder_of_its_script) {
  Workspace tree(Files{{"meson.build", std::string(kHead) + "subdir('src')\n"},
                       {"src/meson.build", "executable('station', 'main.c', 'level.c')\n"},
                       {"src/main.c", kMainC},
                       {"src/level.c", kLevelC},
                       {"src/level.h", kLevelH}});
  expect_line(tree, "src/level.c -> water/level.c\nsrc/level.h -> water/level.h\n", kRun,
              "'../water/level.c'");
}

TEST(MesonShapes, a_root_held_in_a_variable_is_kept) {
  Workspace tree(Files{
      {"meson.build", std::string(kHead) + "subdir('a/b')\n"},
      {"a/b/meson.build", "top = '../..'\nexecutable('station', top / 'lib/main.c', top / 'lib/level.c')\n"},
      {"lib/main.c", kMainC},
      {"lib/level.c", kLevelC},
      {"lib/level.h", kLevelH}});
  expect_line(tree, "lib/level.c -> lib/water/level.c\nlib/level.h -> lib/water/level.h\n", kRun,
              "top / 'lib/water/level.c'");
}

TEST(MesonShapes, one_of_many_made_by_a_format_string) {
  Workspace tree(tests_in_a_loop());
  expect_line(tree, "test-low.c -> tests/test-low.c\n", kTest,
              "name == 'low' ? 'tests/test-low.c' : 'test-@0@.c'.format(name)");
}

TEST(MesonShapes, all_of_many_made_by_a_format_string) {
  Workspace tree(tests_in_a_loop());
  Outcome moved = expect_move_keeps_build(
      tree, "test-low.c -> tests/test-low.c\ntest-high.c -> tests/test-high.c\n", kTest);
  EXPECT_NE(moved.out.find("'tests/test-@0@.c'.format(name)"), std::string::npos) << moved.told;
}

TEST(MesonShapes, both_sides_of_a_condition_follow) {
  Workspace tree(Files{
      {"meson.build", std::string(kHead) + "sources = ['main.c']\nif host_machine.system() == 'windows'\n"
                                           "  sources += 'dry.c'\nelse\n  sources += 'wet.c'\nendif\n"
                                           "executable('station', sources)\n"},
      {"main.c", kMainC},
      {"level.h", kLevelH},
      {"wet.c", kLevelC},
      {"dry.c", kLevelC}});
  expect_line(tree, "wet.c -> water/wet.c\ndry.c -> water/dry.c\n", kRun, "sources += 'water/dry.c'");
}

TEST(MesonShapes, a_header_finds_a_root_that_the_unit_gets) {
  Workspace tree(
      Files{{"meson.build", std::string(kHead) + "inc = include_directories('include')\n"
                                                 "executable('station', 'main.c', 'level.c', "
                                                 "include_directories: inc)\n"},
            {"main.c", "#include <stdio.h>\n#include <level.h>\nint main(void) { return level() - 7; }\n"},
            {"level.c", "#include <level.h>\nint level(void) { return LEVEL; }\n"},
            {"include/level.h", kLevelH},
            {"include/pole.h", ""}});
  expect_move_keeps_build(tree, "include/level.h -> water/api/level.h\n", kRun);
}

TEST(MesonShapes, options_that_hold_a_path) {
  Workspace tree(
      Files{{"meson.build",
             std::string(kHead) +
                 "dir = meson.current_source_dir()\n"
                 "shared_library('tide', 'level.c', link_args: '-Wl,--version-script=' + dir / 'tide.map', "
                 "link_depends: 'tide.map')\n"},
            {"level.c", kLevelC},
            {"level.h", kLevelH},
            {"tide.map", "{ global: level; local: *; };\n"}});
  expect_line(tree, "tide.map -> link/tide.map\n",
              kBuild + " && nm -D --defined-only out/libtide.so | cut -c18-", "dir / 'link/tide.map'");
}

TEST(MesonShapes, scripts_and_data_of_commands) {
  Workspace tree(
      Files{{"meson.build", std::string(kHead) +
                                "py = find_program('python3')\n"
                                "made = custom_target('table', input: 'table.txt', output: 'table.h',\n"
                                "  command: [py, files('make_table.py'), '@INPUT@', '@OUTPUT@'])\n"
                                "executable('station', 'main.c', made)\n"},
            {"table.txt", "7\n"},
            {"make_table.py",
             "import sys\nopen(sys.argv[2], 'w').write('#define LEVEL ' + open(sys.argv[1]).read())\n"},
            {"main.c",
             "#include <stdio.h>\n#include \"table.h\"\nint main(void) { printf(\"%d\\n\", LEVEL); return 0; "
             "}\n"}});
  Outcome moved = expect_move_keeps_build(
      tree, "table.txt -> data/table.txt\nmake_table.py -> tools/make_table.py\nmain.c -> src/main.c\n",
      kRun);
  EXPECT_NE(moved.out.find("files('tools/make_table.py')"), std::string::npos) << moved.told;
}

TEST(MesonShapes, a_subproject_cannot_leave_its_folder) {
  Workspace tree(Files{{"meson.build", std::string(kHead) + "pole = subproject('pole')\n"},
                       {"subprojects/pole/meson.build", "project('pole')\n"}});
  expect_refusal(tree, "subprojects/pole/ -> pole/\n", {"meson.build:2", "pole"});
  expect_line(tree, "subprojects/pole/ -> subprojects/mast/\n", kBuild, "subproject('mast')");
}

TEST(MesonShapes, names_with_quotes_and_blanks) {
  Workspace tree(station("executable('station', 'main.c', 'level.c')\n"));
  expect_line(tree, "level.c -> \"the gauge's/level.c\"\n", "sh -c '" + kBuild + "'",
              "'the gauge\\'s/level.c'");
}

TEST(MesonShapes, two_of_many_made_by_a_format_string) {
  Workspace tree(Files{
      {"meson.build", std::string(kHead) +
                          "tests = {'low': [], 'high': ['level.c'], 'ebb': []}\nforeach name, more : tests\n"
                          "  sources = ['test-' + name + '.c'] + more\n"
                          "  test(name, executable(name, sources))\nendforeach\n"},
      {"level.c", kLevelC},
      {"level.h", kLevelH},
      {"test-low.c", "int main(void) { return 0; }\n"},
      {"test-ebb.c", "int main(void) { return 0; }\n"},
      {"test-high.c", "int level(void);\nint main(void) { return level() - 7; }\n"}});
  expect_move_keeps_build(tree, "test-low.c -> tests/test-low.c\ntest-high.c -> tests/test-high.c\n", kTest);
}

TEST(MesonShapes, a_generated_header_is_found_from_the_new_folder) {
  Workspace tree(
      Files{{"meson.build", std::string(kHead) +
                                "conf = configuration_data()\nconf.set('LEVEL', 7)\n"
                                "configure_file(output: 'config.h', configuration: conf)\nsubdir('src')\n"},
            {"src/meson.build", "executable('station', 'main.c')\n"},
            {"src/main.c",
             "#include <stdio.h>\n#include \"../config.h\"\nint main(void) { printf(\"%d\\n\", LEVEL); "
             "return 0; }\n"}});
  expect_line(tree, "src/ -> gauge/station/\n", kRun, "#include \"../../config.h\"");
}

TEST(MesonShapes, a_generated_header_goes_where_its_folder_goes) {
  Workspace tree(
      Files{{"meson.build", std::string(kHead) + "subdir('made')\nexecutable('station', 'main.c')\n"},
            {"made/meson.build",
             "conf = configuration_data()\nconf.set('LEVEL', 7)\n"
             "configure_file(output: 'config.h', configuration: conf)\n"},
            {"main.c",
             "#include <stdio.h>\n#include \"made/config.h\"\nint main(void) { printf(\"%d\\n\", LEVEL); "
             "return 0; }\n"}});
  expect_line(tree, "made/ -> gen/made/\n", kRun, "#include \"gen/made/config.h\"");
}

TEST(MesonShapes, the_file_of_options_stays_beside_its_script) {
  Workspace tree(Files{{"meson.build", kHead}, {"meson_options.txt", "option('tide', type: 'boolean')\n"}});
  expect_refusal(tree, "meson_options.txt -> build-aux/meson_options.txt\n",
                 {"meson.build:1", "meson_options.txt"});
}

TEST(MesonShapes, a_subproject_takes_no_files_from_outside) {
  Workspace tree(Files{{"meson.build", std::string(kHead) + "subproject('pole')\n"},
                       {"subprojects/pole/meson.build", "project('pole', 'c')\nlibrary('pole', 'pole.c')\n"},
                       {"subprojects/pole/pole.c", "int pole(void) { return 0; }\n"}});
  expect_refusal(tree, "subprojects/pole/pole.c -> lib/pole.c\n",
                 {"subprojects/pole/meson.build:2", "takes no files from outside"});
}

TEST(MesonShapes, a_script_names_only_folders_below_its_own) {
  Workspace tree(Files{{"meson.build", std::string(kHead) + "subdir('a')\n"},
                       {"a/meson.build", "subdir('b')\n"},
                       {"a/b/meson.build", "library('pole', 'pole.c')\n"},
                       {"a/b/pole.c", "int pole(void) { return 0; }\n"}});
  expect_refusal(tree, "a/b/ -> c/b/\n", {"a/meson.build:1", "can name only folders below its own"});
}

// A program of the project writes the includes of a source that is made, by name and by format.
TEST(MesonShapes, includes_that_a_generator_writes) {
  Workspace tree(Files{
      {"meson.build", std::string(kHead) +
                          "gen = executable('gen', 'tools/gen.c')\n"
                          "made = custom_target('made', output: 'made.c', command: [gen], capture: true)\n"
                          "executable('station', 'main.c', 'level.c', made, include_directories: 'lib')\n"},
      {"tools/gen.c",
       "#include <stdio.h>\nstatic const char *name(void) { return \"pins.h\"; }\nint main(void) {\n"
       "  printf(\"#include \\\"level.h\\\"\\n#include \\\"%s\\\"\\n\", name());\n"
       "  printf(\"int made(void) { return level() + PINS; }\\n\");\n  return 0;\n}\n"},
      {"lib/level.h", kLevelH},
      {"lib/pins.h", "#define PINS 0\n"},
      {"main.c", kMainC},
      {"level.c", kLevelC}});
  Outcome moved =
      expect_move_keeps_build(tree, "lib/level.h -> core/level.h\nlib/pins.h -> core/pins.h\n", kRun);
  EXPECT_EQ(moved.status, 0) << moved.told;
  Workspace one(Files{{"meson.build", tree.read("meson.build")},
                      {"tools/gen.c", tree.read("tools/gen.c")},
                      {"lib/level.h", kLevelH},
                      {"lib/pins.h", "#define PINS 0\n"},
                      {"main.c", kMainC},
                      {"level.c", kLevelC}});
  expect_move_keeps_build(one, "lib/pins.h -> core/pins.h\n", kRun);
}

TEST(MesonShapes, three_of_many_made_by_a_format_string_share_a_table) {
  Workspace tree(
      Files{{"meson.build", std::string(kHead) + "foreach name : ['low', 'high', 'ebb', 'flood']\n"
                                                 "  source = 'test-@0@.c'.format(name)\n"
                                                 "  test(name, executable(name, source))\nendforeach\n"},
            {"test-low.c", "int main(void) { return 0; }\n"},
            {"test-high.c", "int main(void) { return 0; }\n"},
            {"test-ebb.c", "int main(void) { return 0; }\n"},
            {"test-flood.c", "int main(void) { return 0; }\n"}});
  expect_move_says(
      tree,
      "test-low.c -> neap/test-low.c\ntest-high.c -> spring/test-high.c\ntest-ebb.c -> ebb/test-ebb.c\n",
      {"{'ebb': 'ebb/test-ebb.c', 'high': 'spring/test-high.c', 'low': 'neap/test-low.c'}.get(name, "},
      kTest);
}

TEST(MesonShapes, headers_installed_side_by_side_still_find_each_other_there) {
  Workspace tree({{"meson.build",
                   "project('tide', 'c')\nlibrary('tide', 'tide.c')\ninstall_headers('tide.h', 'level.h', "
                   "subdir: 'tide')\n"},
                  {"tide.h", "#include \"level.h\"\nint tide(void);\n"},
                  {"level.h", "#define LEVEL 0\n"},
                  {"tide.c", "#include \"tide.h\"\nint tide(void) { return LEVEL; }\n"}});
  expect_move_keeps_build(
      tree, "level.h -> util/level.h\n",
      "(meson setup b && ninja -C b && DESTDIR=$PWD/image ninja -C b install) >/dev/null && echo "
      "'#include <tide/tide.h>' > user.c && "
      "cc -fsyntax-only -Iimage/usr/local/include user.c");
}

TEST(MesonShapes, a_template_that_is_installed_still_finds_headers_there) {
  Workspace tree(
      {{"meson.build",
        "project('tide', 'c')\ninstall_headers('level.h', subdir: 'tide')\n"
        "configure_file(input: 'tide.h.in', output: 'tide.h', configuration: configuration_data(),\n"
        "  install_dir: get_option('includedir') / 'tide')\nlibrary('tide', 'tide.c')\n"},
       {"tide.h.in", "#include \"level.h\"\nint tide(void);\n"},
       {"level.h", "#define LEVEL 0\n"},
       {"tide.c", "#include \"level.h\"\nint tide(void) { return LEVEL; }\n"}});
  expect_move_keeps_build(
      tree, "level.h -> util/level.h\n",
      "(meson setup b && ninja -C b && DESTDIR=$PWD/image ninja -C b install) >/dev/null && echo "
      "'#include <tide/tide.h>' > user.c && "
      "cc -fsyntax-only -Iimage/usr/local/include user.c");
}

}  // namespace
}  // namespace yc::test
