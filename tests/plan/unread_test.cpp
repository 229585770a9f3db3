// "Verified" claims only what was read: what nobody reads, or reads in full, holds back what it could name.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;
using ::testing::StartsWith;

TEST(Unread, sources_in_languages_whose_imports_are_not_read_are_not_proved) {
  const std::vector<std::pair<std::string, std::string>> moves = {
      {"decoder/src/frame.rs", "decoder/src/wire/frame.rs"},
      {"serve/tide.kt", "serve/pkg/tide.kt"},
      {"office/Member.java", "office/people/Member.java"},
      {"lib/gauge.rb", "lib/gauges/gauge.rb"},
  };
  for (const auto& [from, to] : moves) {
    const TreeFiles files = {{from, "\n"}, {"README.md", "notes\n"}};
    EXPECT_THAT(reasons(planned(files, {{from, to}})), ElementsAre("not-read " + from));
    // The rest of such a tree moves as before.
    EXPECT_TRUE(planned(files, {{"README.md", "docs/README.md"}}).verified);
    PlanOptions accepting;
    accepting.accept_unseen = true;
    Plan plan = planned(files, {{from, to}}, accepting);
    EXPECT_TRUE(plan.verified);
    EXPECT_EQ(plan.accepted.size(), 1U) << "what was taken on is told";
  }
  Plan folder = planned({{"decoder/src/a.rs", ""}, {"decoder/src/b.rs", ""}}, {{"decoder", "packets"}});
  ASSERT_EQ(folder.blockers.size(), 1U) << "a language is told once";
  EXPECT_THAT(folder.blockers[0].reason, StartsWith("is Rust (and 1 more)"));
}

TEST(Unread, scripts_of_tools_that_are_not_read_hold_back_what_they_name) {
  const TreeFiles files = {
      {"BUILD.bazel", "cc_library(name = \"tide\", srcs = [\"level.c\"])\n"},
      {"level.c", ""},
      {"other.c", ""},
      {"app/build.gradle", "android { sourceSets { main { assets.srcDirs 'icons' } } }\n"},
      {"app/icons/pole.png", ""}};
  EXPECT_THAT(reasons(planned(files, {{"level.c", "src/level.c"}})), ElementsAre("not-read BUILD.bazel"));
  EXPECT_TRUE(planned(files, {{"other.c", "src/other.c"}}).verified) << "what they cannot name moves";
  EXPECT_THAT(reasons(planned(files, {{"app/icons", "app/signs"}})),
              ElementsAre("not-read app/build.gradle"));
  const TreeFiles patterns = {{"tide/BUILD", "cc_library(name = \"tide\", srcs = glob([\"*.c\"]))\n"},
                              {"tide/level.c", ""},
                              {"tide/el.c", ""},
                              {"notes/level.txt", ""},
                              {"wave/BUILD", "cc_library(name = \"wave\", srcs = [\"level.c\"])\n"},
                              {"wave/el.c", ""}};
  EXPECT_THAT(reasons(planned(patterns, {{"tide/el.c", "tide/deep/el.c"}})),
              ElementsAre("not-read tide/BUILD"));
  EXPECT_TRUE(planned(patterns, {{"notes/level.txt", "tide.txt"}}).verified);
  EXPECT_TRUE(planned(patterns, {{"wave/el.c", "wave/sea/el.c"}}).verified) << "a part of another name";
}

TEST(Unread, scripts_that_were_given_up_hold_back_what_lies_below_them) {
  const TreeFiles files = {
      {"CMakeLists.txt",
       "function(f x)\n  f(${x}a)\n  f(${x}b)\nendfunction()\nf(src)\nadd_library(tide src/level.c)\n"},
      {"src/level.c", ""},
      {"docs/page.md", ""}};
  EXPECT_THAT(reasons(planned(files, {{"docs/page.md", "notes/page.md"}})),
              ElementsAre("given-up CMakeLists.txt"));
}

TEST(Unread, garbled_scripts_hold_back_what_they_name) {
  const TreeFiles files = {
      {"CMakeLists.txt", "add_library(tide level.c\n"}, {"level.c", ""}, {"other.c", ""}};
  EXPECT_THAT(reasons(planned(files, {{"level.c", "src/level.c"}})), Contains("garbled CMakeLists.txt"));
  EXPECT_TRUE(planned(files, {{"other.c", "src/other.c"}}).verified);
}

// What is found beside a file, or by a search root, must be found as surely afterwards.
TEST(Unread, include_that_only_a_guess_would_find_is_respelled) {
  const TreeFiles files = {{"src/a.c", "#include \"a.h\"\n"}, {"src/a.h", ""}};
  EXPECT_THAT(edits(planned(files, {{"src/a.h", "foo/a.h"}})), ElementsAre("src/a.c: a.h -> ../foo/a.h"));
  const TreeFiles by_root = {{"Makefile", "CFLAGS = -Iinc\nmain.o: main.c\n"},
                             {"main.c", ""},
                             {"inc/tide.h", ""},
                             {"notes/tool.c", "#include \"tide.h\"\n"}};
  EXPECT_THAT(edits(planned(by_root, {{"inc/tide.h", "lib/tide.h"}})), ElementsAre("Makefile: inc -> lib"))
      << "the search root follows, which makes the guess as good as it was";
}

TEST(Unread, names_of_programs_in_scripts_of_packages_are_no_paths) {
  const TreeFiles files = {{"package.json",
                            "{ \"scripts\": { \"a\": \"jest --ci\", \"b\": \"npx jest\", \"c\": \"yarn run "
                            "jest\", \"d\": \"pnpm exec jest x\",\n"
                            "  \"e\": \"cross-env A=b jest\", \"f\": \"concurrently \\\"jest\\\" \\\"node "
                            "jest/run.js\\\"\", \"g\": \"npm run jest\",\n"
                            "  \"h\": \"yarn workspace jest test\", \"i\": \"./jest/run.js && jest\", \"j\": "
                            "\"eslint jest\" } }\n"},
                           {"jest/run.js", ""}};
  EXPECT_THAT(edits(planned(files, {{"jest", "spec"}})),
              ElementsAre("package.json: jest/run.js -> spec/run.js ?",
                          "package.json: ./jest/run.js -> ./spec/run.js", "package.json: jest -> spec ?"))
      << "the two that are started by their paths, and an argument";
}

TEST(Unread, links_of_a_page_to_itself_follow) {
  const TreeFiles files = {{"about.html", "<a href=\"about.html#top\">up</a><a href=\"#top\">top</a>\n"}};
  EXPECT_THAT(edits(planned(files, {{"about.html", "tide.html"}})),
              ElementsAre("about.html: about.html -> tide.html"));
  EXPECT_THAT(edits(planned(files, {{"about.html", "pages/about.html"}})), IsEmpty());
}

}  // namespace
}  // namespace yc::test
