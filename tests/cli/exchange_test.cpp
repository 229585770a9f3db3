// What the program writes for other programs: reports, completions and manual pages.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "support/workspace.h"

namespace yc::test {
namespace {

using nlohmann::json;
using ::testing::ElementsAre;
using ::testing::HasSubstr;

// A page whose picture went elsewhere, with a letter of two bytes before it.
Files site() {
  return {{"site/a b.html", "<p>é <img src=\"map.svg\"></p>\n"}, {"pictures/map.svg", ""}};
}

TEST(Reports, sarif_tells_where_in_characters_from_the_root) {
  Workspace tree(site());
  Outcome said = tree.run({"check", "--report", "found.sarif"});
  EXPECT_EQ(said.status, 1) << said.told;
  json log = json::parse(tree.read("found.sarif"));
  EXPECT_EQ(log["version"], "2.1.0");
  const json& run = log["runs"][0];
  EXPECT_EQ(run["tool"]["driver"]["rules"][0]["id"], "dangling");
  EXPECT_EQ(run["originalUriBaseIds"]["ROOT"]["uri"], "file://" + tree.root() + "/");
  ASSERT_EQ(run["results"].size(), 1U);
  const json& result = run["results"][0];
  EXPECT_EQ(result["ruleIndex"], 0);
  EXPECT_EQ(result["level"], "error");
  EXPECT_THAT(result["message"]["text"].get<std::string>(), HasSubstr("most likely meant: pictures/map.svg"));
  const json& place = result["locations"][0]["physicalLocation"];
  EXPECT_EQ(place["artifactLocation"]["uri"], "site/a%20b.html");
  EXPECT_EQ(place["region"],
            json({{"startLine", 1}, {"startColumn", 16}, {"endLine", 1}, {"endColumn", 23}}));
}

TEST(Reports, junit_has_a_case_for_each_finding) {
  Workspace tree(site());
  ASSERT_EQ(tree.run({"check", "--report", "found.xml"}).status, 1);
  EXPECT_THAT(tree.read("found.xml"),
              HasSubstr("<testsuite name=\"dangling\" tests=\"1\" failures=\"1\" skipped=\"0\">"));
  EXPECT_THAT(tree.read("found.xml"),
              HasSubstr("<testcase name=\"site/a b.html:1:17\" classname=\"dangling\">"));
  EXPECT_EQ(tree.shell("xmllint --noout found.xml").status, 0);
  tree.shell("mv pictures/map.svg site/");
  ASSERT_EQ(tree.run({"check", "--report", "found.xml"}).status, 0);
  EXPECT_THAT(tree.read("found.xml"), HasSubstr("every reference leads somewhere"));
}

TEST(Reports, are_of_the_kind_that_the_ending_tells) {
  Workspace tree(site());
  ASSERT_EQ(tree.run({"check", "--report", "found.json"}).status, 1);
  EXPECT_EQ(json::parse(tree.read("found.json")), json::parse(tree.run({"check", "--format", "json"}).out));
  Outcome said = tree.run({"check", "--report", "found.pdf"});
  EXPECT_EQ(said.status, 2);
  EXPECT_THAT(said.err, HasSubstr(".sarif"));
}

TEST(Reports, only_what_came_since_a_commit) {
  Workspace tree(site());
  tree.shell(
      "git init -q . && git add -A && git -c user.name=v -c user.email=v@example.org commit -qm first");
  Outcome said = tree.run({"check", "--since", "HEAD"});
  EXPECT_EQ(said.status, 0) << said.told;
  EXPECT_THAT(said.out, HasSubstr("Nothing came since HEAD."));
  tree.write("site/b.html", "\n<img src=\"map.svg\">\n");
  tree.write("site/a b.html", "\n\n<p>é <img src=\"map.svg\"></p>\n");
  said = tree.run({"check", "--since", "HEAD"});
  EXPECT_EQ(said.status, 1) << said.told;
  EXPECT_THAT(said.out, HasSubstr("site/b.html:2:11"));
  EXPECT_THAT(said.out, Not(HasSubstr("a b.html"))) << "it has only moved down";
  EXPECT_EQ(tree.run({"check", "--since", "nowhere"}).status, 2);
}

TEST(Reports, fail_on_what_is_asked_for) {
  Workspace tree(site());
  EXPECT_EQ(tree.run({"check", "--fail-on", "wrong-case,unlisted"}).status, 0);
  EXPECT_EQ(tree.run({"check", "--fail-on", "wrong-case,dangling"}).status, 1);
}

// What bash would offer at the end of a line.
std::string offered(const Workspace& tree, const std::string& words, int at) {
  Outcome said = tree.shell("bash -c 'source ./completion; COMP_WORDS=(" + words +
                            "); COMP_CWORD=" + std::to_string(at) +
                            "; compopt() { :; }; _yellow_compass; echo ${COMPREPLY[*]}'");
  EXPECT_EQ(said.status, 0) << said.told;
  return said.out;
}

TEST(Completion, of_bash) {
  Workspace tree;
  tree.write("completion", tree.run({"completion", "bash"}).out);
  EXPECT_EQ(offered(tree, "yellow-compass mo", 1), "move\n");
  EXPECT_EQ(offered(tree, "yellow-compass --fo", 1), "--format\n");
  EXPECT_EQ(offered(tree, "yellow-compass --format js", 2), "json\n");
  EXPECT_EQ(offered(tree, "yellow-compass move --she", 2), "--sheet\n");
  EXPECT_EQ(offered(tree, "yellow-compass restyle --to al", 3), "alias\n");
}

TEST(Completion, of_other_shells_is_understood_by_them) {
  Workspace tree;
  tree.write("zsh", tree.run({"completion", "zsh"}).out);
  tree.write("fish", tree.run({"completion", "fish"}).out);
  EXPECT_EQ(tree.shell("zsh -n zsh").status, 0);
  EXPECT_EQ(tree.shell("fish --no-execute fish").status, 0);
  Outcome said = tree.shell("HOME=. fish -c 'source ./fish; complete -C \"yellow-compass mo\"'");
  EXPECT_THAT(said.out, HasSubstr("move\tMove files and folders"));
  EXPECT_EQ(tree.run({"completion", "dash"}).status, 2);
}

TEST(Manual, pages_are_well_formed_and_tell_every_option) {
  Workspace tree;
  for (const std::string command : {"", "move", "check", "restyle", "completion"}) {
    SCOPED_TRACE(command);
    std::vector<std::string> asked = {"manual"};
    if (!command.empty()) asked.push_back(command);
    tree.write("page.1", tree.run(asked).out);
    Outcome set = tree.shell("groff -man -Tutf8 -ww -P-c page.1");
    EXPECT_EQ(set.status, 0) << set.told;
    EXPECT_EQ(set.err, "") << set.told;
    EXPECT_THAT(tree.read("page.1"), HasSubstr(".SH EXIT STATUS\n0 done and verified"));
  }
  EXPECT_THAT(tree.run({"manual", "move"}).out, HasSubstr("\\-\\-accept\\-unseen"));
  EXPECT_EQ(tree.run({"manual", "nothing"}).status, 2);
}

}  // namespace
}  // namespace yc::test
