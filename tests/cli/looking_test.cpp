// Commands that only look: what they print as text and as JSON, their statuses, and that they write nothing.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "support/workspace.h"

namespace yc::test {
namespace {

using nlohmann::json;
using ::testing::ElementsAre;
using ::testing::HasSubstr;

Files station() {
  return {{"CMakeLists.txt",
           "cmake_minimum_required(VERSION 3.16)\nproject(tide C)\nadd_library(level STATIC src/level.c)\n"
           "target_include_directories(level PUBLIC include)\nadd_executable(station src/main.c)\n"
           "target_link_libraries(station PRIVATE level)\nadd_executable(tool src/tool.c)\n"},
          {"src/main.c", "#include <level.h>\nint main(void) { return level() - 7; }\n"},
          {"src/tool.c", "int main(void) { return 0; }\n"},
          {"src/level.c", "#include <level.h>\nint level(void) { return 7; }\n"},
          {"include/level.h", "int level(void);\n"}};
}

json spoken(const Workspace& tree, std::vector<std::string> arguments, int status = 0) {
  arguments.insert(arguments.begin(), {"--format", "json"});
  Outcome out = tree.run(arguments);
  EXPECT_EQ(out.status, status) << out.told;
  json parsed = json::parse(out.out, nullptr, false);
  EXPECT_FALSE(parsed.is_discarded()) << out.told;
  return parsed;
}

TEST(Impact, tells_what_is_rebuilt) {
  Workspace tree(station());
  auto before = tree.contents();
  Outcome text = tree.run({"impact", "include/level.h"});
  EXPECT_EQ(text.status, 0);
  EXPECT_THAT(text.out, HasSubstr("station"));
  EXPECT_EQ(text.out.find("tool"), std::string::npos) << text.told;
  json found = spoken(tree, {"impact", "src/level.c"});
  std::map<std::string, std::string> why;
  for (const json& row : found["rebuilt"]) why[row["unit"]] = row["why"];
  EXPECT_EQ(why,
            (std::map<std::string, std::string>{{"level", "builds src/level.c"}, {"station", "uses level"}}));
  EXPECT_EQ(found["units"].size(), 3U);
  EXPECT_EQ(tree.contents(), before);
}

TEST(Impact, tells_who_uses_whom_and_draws_it) {
  Workspace tree(station());
  json all = spoken(tree, {"impact"});
  std::map<std::string, std::vector<std::string>> uses;
  for (const json& unit : all["units"]) uses[unit["name"]] = unit["uses"].get<std::vector<std::string>>();
  EXPECT_THAT(uses["station"], ElementsAre("level"));
  EXPECT_TRUE(uses["tool"].empty());
  Outcome drawn = tree.run({"impact", "--figure", "units.svg"});
  EXPECT_EQ(drawn.status, 0) << drawn.told;
  std::string figure = tree.read("units.svg");
  EXPECT_THAT(figure, HasSubstr("<svg"));
  EXPECT_THAT(figure, HasSubstr("station"));
}

TEST(Impact, of_a_path_that_is_not_there) {
  Workspace tree(station());
  Outcome out = tree.run({"impact", "src/gone.c"});
  EXPECT_EQ(out.status, 2) << out.told;
  EXPECT_THAT(out.err, HasSubstr("src/gone.c"));
}

// On standard error, so that what is printed stays what it is.
TEST(Stats, tell_where_the_time_went) {
  Workspace tree(station());
  for (const std::vector<std::string>& command : std::vector<std::vector<std::string>>{
           {"survey"}, {"check"}, {"move", "src/level.c", "lib/level.c", "--preview"}}) {
    std::vector<std::string> with = command;
    with.insert(with.begin(), {"--stats", "--no-cache"});
    Outcome plain = tree.run(command), told = tree.run(with);
    EXPECT_EQ(told.status, plain.status) << told.told;
    EXPECT_EQ(told.out, plain.out);
    EXPECT_THAT(told.err, HasSubstr("list the tree"));
    EXPECT_THAT(told.err, HasSubstr("  read\n"));
    EXPECT_THAT(told.err, HasSubstr("cmake, "));
    EXPECT_THAT(told.err, HasSubstr("runs of scripts"));
  }
}

TEST(Refs, in_json_and_of_folders) {
  Workspace tree(station());
  json found = spoken(tree, {"refs", "include/level.h", "src"});
  ASSERT_EQ(found.size(), 2U);
  EXPECT_EQ(found[0]["path"], "include/level.h");
  ASSERT_EQ(found[0]["incoming"].size(), 2U);
  EXPECT_EQ(found[0]["incoming"][0]["text"], "level.h");
  EXPECT_EQ(found[0]["incoming"][0]["line"], 1);
  EXPECT_EQ(tree.run({"refs", "gone.h"}).status, 2);
}

TEST(Check, has_a_status_of_its_own_for_findings) {
  Workspace tree(station());
  EXPECT_EQ(tree.run({"check"}).status, 0);
  tree.write("src/main.c", "#include \"lvl/level.h\"\n");
  Outcome text = tree.run({"check"});
  EXPECT_EQ(text.status, 1) << text.told;
  EXPECT_THAT(text.out, HasSubstr("src/main.c:1:11"));
  json found = spoken(tree, {"check"}, 1);
  ASSERT_EQ(found.size(), 1U);
  EXPECT_EQ(found[0]["id"], "dangling");
  EXPECT_EQ(found[0]["file"], "src/main.c");
  EXPECT_EQ(found[0]["line"], 1);
  EXPECT_THAT(found[0]["suggestion"].get<std::string>(), HasSubstr("level.h"));
}

TEST(Survey, counts_in_json) {
  Workspace tree(station());
  json found = spoken(tree, {"survey"});
  EXPECT_EQ(found["files"], 5);
  EXPECT_EQ(found["formats"]["cmake"], 1);
  EXPECT_EQ(found["formats"]["c and c++"], 4);
  tree.write("yellow-compass.toml", "protected = [\"vendor\"]\nincludes = \"relative\"\n");
  json configured = spoken(tree, {"survey"});
  EXPECT_THAT(configured["settings"]["protected"].get<std::string>(), HasSubstr("vendor"));
  EXPECT_THAT(configured["settings"]["includes"].get<std::string>(), HasSubstr("yellow-compass.toml"));
}

TEST(Configuration, garbled_is_refused_by_every_command_with_the_place) {
  Workspace tree(station());
  tree.write("yellow-compass.toml", "protected = [\n");
  for (const std::vector<std::string>& command : std::vector<std::vector<std::string>>{
           {"survey"}, {"check"}, {"refs", "src"}, {"move", "src/main.c", "app/main.c"}, {"impact"}}) {
    Outcome out = tree.run(command);
    EXPECT_EQ(out.status, 2) << out.told;
    EXPECT_THAT(out.err, HasSubstr("yellow-compass.toml:")) << out.told;
  }
  tree.write("yellow-compass.toml", "protekted = []\n");
  Outcome unknown = tree.run({"survey"});
  EXPECT_EQ(unknown.status, 2) << unknown.told;
  EXPECT_THAT(unknown.err, HasSubstr("protekted"));
}

TEST(Names, with_blanks_and_signs_move_in_every_kind_of_tree) {
  const std::string odd = "a [tide] & more #1";
  Workspace tree(Files{{"src/main.ts", "import './" + std::string("level") + "';\n"},
                       {"src/level.ts", "export {};\n"},
                       {"main.py", "print(open(\"data/a.txt\").read())\n"},
                       {"data/a.txt", "7\n"},
                       {"page.html", "<img src=\"data/a.txt\">\n"},
                       {"doc.md", "[a](data/a.txt)\n"}});
  Outcome moved = tree.run({"move", "data", odd});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_THAT(tree.read("main.py"), HasSubstr(odd + "/a.txt"));
  EXPECT_THAT(tree.read("page.html"), HasSubstr("%20")) << "in the spelling of the language";
  auto there = tree.contents();
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  EXPECT_THAT(tree.read("doc.md"), HasSubstr("(data/a.txt)"));
  EXPECT_TRUE(tree.exists("data/a.txt"));
}

}  // namespace
}  // namespace yc::test
