// The program as a user meets it: what it prints, its exit status, and what it leaves on disk.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "support/workspace.h"

namespace yc::test {
namespace {

using nlohmann::json;
using ::testing::HasSubstr;
using ::testing::Not;

Files station() {
  return {{"Makefile", "OBJS = main.o gauge.o\nstation: $(OBJS)\n\t$(CC) -o $@ $(OBJS)\n"},
          {"main.c", "#include \"gauge.h\"\nint main(void) { return gauge(); }\n"},
          {"gauge.c", "#include \"gauge.h\"\nint gauge(void) { return 0; }\n"},
          {"gauge.h", "int gauge(void);\n"},
          {"NOTES", "The reading is done in gauge.c, see there.\n"}};
}

TEST(Program, preview_shows_the_plan_and_writes_nothing) {
  Workspace tree(station());
  auto before = tree.contents();
  Outcome shown = tree.run({"move", "gauge.c", "gauge.h", "lib/", "--preview"});
  EXPECT_EQ(shown.status, 0) << shown.told;
  EXPECT_EQ(shown.out,
            "Before          After\n"
            "  ~ Makefile      lib/\n"
            "  - gauge.c     +   gauge.c\n"
            "  - gauge.h     +   gauge.h\n"
            "  ~ main.c      ~ Makefile\n"
            "    … 1 more    ~ main.c\n"
            "                  … 1 more\n"
            "Moves\n"
            "  gauge.c -> lib/gauge.c\n"
            "  gauge.h -> lib/gauge.h\n"
            "Edits of build scripts and settings\n"
            "  Makefile\n"
            "        1 - OBJS = main.o gauge.o\n"
            "          + OBJS = main.o lib/gauge.o\n"
            "Edits of sources\n"
            "  main.c\n"
            "        1 - #include \"gauge.h\"\n"
            "          + #include \"lib/gauge.h\"\n"
            "Notices\n"
            "  NOTES:1:24: mentions gauge.c\n"
            "Verified, nothing written: 2 files move, 2 edits in 2 files.\n");
  EXPECT_EQ(tree.contents(), before);
}

TEST(Program, move_then_undo) {
  Workspace tree(station());
  auto before = tree.contents();
  Outcome moved = tree.run({"move", "gauge.c", "lib/"});
  EXPECT_THAT(moved.out, HasSubstr("Done and verified: 1 file moves, 2 edits in 2 files.\n")) << moved.told;
  EXPECT_TRUE(tree.exists("lib/gauge.c"));
  Outcome undone = tree.run({"undo"});
  EXPECT_EQ(undone.out,
            "Undone: 1 file moved back, 2 edited files restored. (yellow-compass move gauge.c lib/)\n")
      << undone.told;
  EXPECT_EQ(tree.contents(), before);
  EXPECT_EQ(tree.run({"undo"}).status, 2);
}

TEST(Program, moves_from_a_subfolder_are_relative_to_it) {
  Workspace tree(station());
  tree.write("tools/readme", "x\n");
  Outcome moved = tree.shell("git init -q . && cd tools && " + std::string(YELLOW_COMPASS_PROGRAM) +
                             " move ../gauge.c .");
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_TRUE(tree.exists("tools/gauge.c"));
  EXPECT_TRUE(tree.exists(".git/yellow-compass/journals")) << "state is kept in the repository's own folder";
}

TEST(Program, requests_that_cannot_be_are_refused_with_status_2) {
  Workspace tree(station());
  tree.write("lib/other.c", "\n");
  tree.write(".git-keep", "");
  auto before = tree.contents();
  const std::vector<std::pair<std::vector<std::string>, std::string>> cases = {
      {{"move", "none.c", "x.c"}, "none.c: there is no such file or folder"},
      {{"move", "gauge.c", "main.c"}, "main.c: exists already; gauge.c cannot take its place"},
      {{"move", "lib", "lib/inside"}, "lib: a folder cannot be moved into itself"},
      {{"move", "main.c", "gauge.c", "new"}, "new: several files can only be moved into a folder"},
      {{"move", "main.c", "../out.c"}, "../out.c: lies outside the tree"},
      {{"move", "main.c"}, "move needs what to move and where to"},
      {{"move", "--sheet", "none.sheet"}, "none.sheet: cannot be read"},
      {{"refs", "none.c"}, "none.c: there is no such file or folder"},
      {{"-C", "nowhere", "survey"}, "nowhere: is not a folder"},
  };
  for (const auto& [arguments, text] : cases) {
    Outcome refused = tree.run(arguments);
    EXPECT_EQ(refused.status, 2) << refused.told;
    EXPECT_THAT(refused.err, HasSubstr(text)) << refused.told;
  }
  EXPECT_EQ(tree.run({"no-such-command"}).status, 2);
  EXPECT_EQ(tree.run({"move", "--no-such-option"}).status, 2);
  EXPECT_EQ(tree.run({}).status, 2);
  EXPECT_EQ(tree.contents(), before);
}

TEST(Program, protected_and_ignored_files_stay) {
  Workspace tree(station());
  tree.write("yellow-compass.toml", "protected = [\"gauge.h\"]\n");
  tree.write(".gitignore", "*.o\n");
  tree.write("main.o", "");
  ASSERT_EQ(tree.shell("git init -q .").status, 0);
  EXPECT_THAT(tree.run({"move", "gauge.h", "x.h"}).err, HasSubstr("gauge.h: is protected"));
  EXPECT_THAT(tree.run({"move", "main.o", "x.o"}).err, HasSubstr("main.o: is ignored by version control"));
  tree.write("yellow-compass.toml", "protectet = []\n");
  Outcome wrong = tree.run({"survey"});
  EXPECT_EQ(wrong.status, 2);
  EXPECT_THAT(wrong.err, HasSubstr("yellow-compass.toml:1:13: \"protectet\" is not a known key"));
}

TEST(Program, patch_is_what_git_apply_takes) {
  Workspace tree(station());
  tree.write("odd name\t\".c", "int odd;\n");
  ASSERT_EQ(
      tree.shell("git init -q . && git add -A && git -c user.name=x -c user.email=x@x commit -qm one").status,
      0);
  tree.write("moves.sheet",
             "gauge.c -> lib/gauge.c\ngauge.h -> lib/gauge.h\n\"odd name\\t\\\".c\" -> lib/odd.c\n");
  auto before = tree.contents();
  Outcome written = tree.run({"move", "--sheet", "moves.sheet", "--patch", "-"});
  EXPECT_EQ(written.status, 0) << written.told;
  EXPECT_EQ(tree.contents(), before);
  tree.write("../patch-of-" + tree.root().substr(tree.root().rfind('/') + 1), written.out);
  std::string patch = tree.root() + "/../patch-of-" + tree.root().substr(tree.root().rfind('/') + 1);
  Outcome applied = tree.shell("git apply --index '" + patch + "'; s=$?; rm '" + patch + "'; exit $s");
  EXPECT_EQ(applied.status, 0) << applied.told << written.out;
  auto by_git = tree.contents();
  ASSERT_EQ(tree.shell("git reset -q --hard && git clean -qfd").status, 0);
  tree.write("moves.sheet",
             "gauge.c -> lib/gauge.c\ngauge.h -> lib/gauge.h\n\"odd name\\t\\\".c\" -> lib/odd.c\n");
  ASSERT_EQ(tree.run({"move", "--sheet", "moves.sheet"}).status, 0);
  EXPECT_EQ(tree.contents(), by_git);
}

TEST(Program, refs_tell_both_ways) {
  Workspace tree(station());
  Outcome refs = tree.run({"refs", "gauge.c"});
  EXPECT_EQ(refs.status, 0) << refs.told;
  EXPECT_THAT(refs.out, HasSubstr("referred to from"));
  EXPECT_THAT(refs.out, HasSubstr("Makefile:1:15"));
  EXPECT_THAT(refs.out, HasSubstr("gauge.c:1:11  include gauge.h -> gauge.h"));
}

TEST(Program, refs_tell_which_unit_finds_what) {
  Workspace tree(Files{{"meson.build",
                        "project('tide', 'c')\nexecutable('gauge', 'a.c', include_directories: 'old')\n"
                        "executable('viewer', 'a.c', include_directories: 'new')\n"},
                       {"a.c", "#include <conf.h>\nint main(void) { return 0; }\n"},
                       {"old/conf.h", ""},
                       {"new/conf.h", ""}});
  Outcome outcome = tree.run({"refs", "old/conf.h"});
  EXPECT_NE(outcome.out.find("  in build unit gauge\n"), std::string::npos) << outcome.told;
  EXPECT_NE(outcome.out.find("in viewer: new/conf.h"), std::string::npos) << outcome.told;
  EXPECT_NE(outcome.out.find("in gauge: old/conf.h"), std::string::npos) << outcome.told;
  Outcome moved = tree.run({"move", "old/conf.h", "older/", "-v"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_EQ(tree.read("a.c").substr(0, 18), "#include <conf.h>\n")
      << "what one unit needs, another must not lose";
}

TEST(Program, a_copy_of_the_database_is_written_on_request) {
  Workspace tree(Files{
      {"CMakeLists.txt", "cmake_minimum_required(VERSION 3.13)\nproject(tide C)\nadd_executable(a a.c)\n"},
      {"a.c", "int main(void) { return 0; }\n"},
      {".gitignore", "build/\n"}});
  tree.shell("git init -q . && cmake -S . -B build -DCMAKE_EXPORT_COMPILE_COMMANDS=ON >/dev/null");
  std::string before = tree.read("build/compile_commands.json");
  Outcome moved = tree.run({"move", "a.c", "src/", "--database", "build/new.json"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_EQ(tree.read("build/compile_commands.json"), before) << "what a build made is left to it";
  EXPECT_NE(moved.out.find("build/compile_commands.json: was made by a build"), std::string::npos)
      << moved.told;
  std::string copy = tree.read("build/new.json");
  EXPECT_NE(copy.find("/src/a.c\""), std::string::npos) << copy;
  EXPECT_EQ(copy.find(tree.root() + "/a.c"), std::string::npos) << copy;
  EXPECT_EQ(tree.run({"move", "nothing.c", "x/", "--database", "y"}).status, 2);
}

TEST(Program, check_names_the_file_that_was_meant) {
  Workspace tree(station());
  EXPECT_EQ(tree.run({"check"}).out, "Every reference leads somewhere.\n");
  ASSERT_EQ(tree.shell("mkdir lib && mv gauge.h lib/").status, 0);
  Outcome found = tree.run({"check"});
  EXPECT_EQ(found.status, 1) << found.told;
  EXPECT_THAT(found.out, HasSubstr("main.c:1:11: include gauge.h is found by no search root of its build "
                                   "unit [dangling]\n  most likely meant: lib/gauge.h\n"))
      << found.told;
}

TEST(Program, every_command_speaks_json) {
  Workspace tree(station());
  for (const std::vector<std::string>& arguments :
       std::vector<std::vector<std::string>>{{"survey"},
                                             {"check"},
                                             {"refs", "gauge.c", "."},
                                             {"move", "gauge.c", "lib/", "--preview"},
                                             {"move", "gauge.c", "lib/"},
                                             {"undo"}}) {
    std::vector<std::string> all = {"--format", "json"};
    all.insert(all.end(), arguments.begin(), arguments.end());
    Outcome told = tree.run(all);
    EXPECT_EQ(told.status, 0) << told.told;
    EXPECT_FALSE(json::parse(told.out, nullptr, false).is_discarded()) << told.told;
  }
  Outcome error = tree.run({"--format", "json", "move", "none.c", "x.c"});
  EXPECT_EQ(json::parse(error.out).at("error").at("place"), "none.c");
  json plan = json::parse(tree.run({"--format", "json", "move", "gauge.c", "lib/", "--preview"}).out);
  EXPECT_EQ(plan.at("outcome"), "previewed");
  EXPECT_EQ(plan.at("moves"), json::parse(R"([{"from": "gauge.c", "to": "lib/gauge.c"}])"));
  EXPECT_EQ(
      plan.at("edits").at(0),
      json::parse(
          R"({"file": "Makefile", "line": 1, "column": 15, "before": "gauge", "after": "lib/gauge", "certainty": "certain"})"));
}

TEST(Program, colours_only_when_asked_for_in_a_pipe) {
  Workspace tree(station());
  EXPECT_THAT(tree.run({"survey"}).out, Not(HasSubstr("\x1b[")));
  EXPECT_THAT(tree.run({"--color", "always", "survey"}).out, HasSubstr("\x1b["));
}

TEST(Program, order_of_the_sheet_is_irrelevant) {
  for (const char* sheet :
       {"main.c -> a/main.c\ngauge.c -> main.c\n", "gauge.c -> main.c\nmain.c -> a/main.c\n"}) {
    Workspace tree(station());
    expect_move_keeps_build(tree, sheet, "make -s && ./station");
  }
}

// Bad input: never a crash, never a wrong edit, nothing lost.
TEST(BadInput, garbled_build_scripts_leave_the_rest_working) {
  const std::vector<std::pair<std::string, std::string>> scripts = {
      {"Makefile", "ifdef X\nstation: main.o $(\n"},
      {"Makefile", "A = $(B)\nB = $(A)\nstation: $(A) main.o\n"},
      {"Makefile", std::string("station: main.o\n\0\0\x01\xff", 20)},
      {"CMakeLists.txt", "add_executable(station main.c \"gauge.c\n"},
      {"CMakeLists.txt", "include(CMakeLists.txt)\nadd_executable(station main.c gauge.c)\n"},
      {"CMakePresets.json", "{\"include\": [\"main.c\", "},
      {"fragment.mk", "include fragment.mk\n"},
  };
  for (const auto& [path, bytes] : scripts) {
    Workspace tree(station());
    tree.write(path, bytes);
    for (const std::vector<std::string>& arguments : std::vector<std::vector<std::string>>{
             {"survey"}, {"refs", "main.c"}, {"move", "NOTES", "docs/NOTES"}}) {
      Outcome told = tree.run(arguments);
      EXPECT_TRUE(told.status == 0 || told.status == 3) << told.told;
    }
    Outcome checked = tree.run({"check"});
    EXPECT_TRUE(checked.status == 0 || checked.status == 1) << checked.told;
  }
}

TEST(BadInput, odd_names_move_and_return) {
  const std::vector<std::string> names = {"with space.h",  "dollar$x.h",     "quote'.h",     "quote\".h",
                                          "back\\slash.h", "n\xffot-utf8.h", "semi;colon.h", "hash#.h",
                                          "-dash.h",       "per%cent.h"};
  for (const std::string& name : names) {
    Workspace tree(Files{{"Makefile", "station: main.o\n\t$(CC) -o $@ $^\n"},
                         {"main.c", "int main(void) { return 0; }\n"},
                         {name, "\n"}});
    auto before = tree.contents();
    Outcome moved = tree.run({"move", "--", name, "include/"});
    EXPECT_EQ(moved.status, 0) << moved.told;
    EXPECT_TRUE(tree.exists("include/" + name));
    EXPECT_EQ(tree.run({"undo"}).status, 0);
    EXPECT_EQ(tree.contents(), before) << name;
  }
}

TEST(BadInput, paths_that_a_language_cannot_spell_stand_in_the_way) {
  Workspace tree(station());
  expect_refusal(tree, "gauge.c -> \"lib/the gauge.c\"\n", {"Makefile:1"});
  expect_refusal(tree, "gauge.h -> \"lib/q\\\"uote.h\"\n", {"main.c:1:11"});
}

TEST(BadInput, links_out_of_the_root_are_not_followed) {
  Workspace outside(Files{{"secret.h", "int secret;\n"}});
  Workspace tree(station());
  ASSERT_EQ(
      tree.shell("ln -s " + outside.root() + " away && ln -s gauge.h alias.h && ln -s loop loop").status, 0);
  auto before = outside.contents();
  EXPECT_EQ(tree.run({"survey"}).status, 0);
  EXPECT_EQ(tree.run({"move", "gauge.c", "lib/"}).status, 0);
  EXPECT_EQ(outside.contents(), before);
}

TEST(BadInput, gigantic_lines_and_deep_folders) {
  Workspace tree(station());
  tree.write("long.c", "char* x = \"" + std::string(3'000'000, 'x') + "\";\n#include \"gauge.h\"\n");
  tree.write("long.mk", "X = " + std::string(1'000'000, 'y') + "\n");
  std::string deep;
  for (int i = 0; i < 80; ++i) deep += "d/";
  std::string up;
  for (int i = 0; i < 80; ++i) up += "../";
  tree.write(deep + "x.c", "#include \"" + up + "gauge.h\"\n");
  Outcome moved = tree.run({"move", "gauge.h", "lib/"});
  EXPECT_EQ(moved.status, 0) << moved.err;
  EXPECT_THAT(tree.read(deep + "x.c"), HasSubstr("\"" + up + "lib/gauge.h\""));
}

TEST(BadInput, unreadable_folder_is_left_alone) {
  Workspace tree(station());
  tree.write("closed/x.c", "#include \"gauge.h\"\n");
  ASSERT_EQ(tree.shell("chmod 000 closed").status, 0);
  Outcome moved = tree.run({"move", "gauge.h", "lib/"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  ASSERT_EQ(tree.shell("chmod 755 closed").status, 0);
}

TEST(Program, leaves_a_whole_tree_whenever_it_is_interrupted) {
  std::size_t stopped = 0, done = 0;
  for (int milliseconds = 1; milliseconds < 60; milliseconds += 3) {
    SCOPED_TRACE(milliseconds);
    Workspace tree(station());
    auto before = tree.contents();
    Outcome ended = tree.shell("timeout -s INT 0.0" + std::string(milliseconds < 10 ? "0" : "") +
                               std::to_string(milliseconds) +
                               " '" YELLOW_COMPASS_PROGRAM "' move gauge.c gauge.h lib/; exit $?");
    bool was_moved = tree.exists("lib/gauge.c");
    (was_moved ? done : stopped) += 1;
    if (!was_moved) {
      EXPECT_EQ(tree.contents(), before) << ended.told;
      continue;
    }
    EXPECT_FALSE(tree.exists("gauge.c")) << ended.told;
    EXPECT_EQ(tree.run({"undo"}).status, 0) << ended.told;
    EXPECT_EQ(tree.contents(), before);
  }
  EXPECT_GT(stopped, 0U) << "the first ones come before anything is read";
}

}  // namespace
}  // namespace yc::test
