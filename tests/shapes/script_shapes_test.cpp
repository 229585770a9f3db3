// Shapes of projects whose build is a shell script: each is moved, run, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const char* const kMainC =
    "#include <stdio.h>\n#include \"level.h\"\nint main(void) { printf(\"%d\\n\", LEVEL); return 0; }\n";

TEST(ScriptShapes, a_build_script_at_the_top) {
  Workspace tree(Files{{"build.sh",
                        "#!/bin/sh\nset -e\nmkdir -p out\ncc -Iinc -o out/station src/main.c\n./out/station\n"
                        "cat data/levels.txt\n"},
                       {"src/main.c", kMainC},
                       {"inc/level.h", "#define LEVEL 7\n"},
                       {"data/levels.txt", "low\n"}});
  expect_move_keeps_build(tree, "src/main.c -> gauge/main.c\ninc/ -> gauge/include/\ndata/ -> share/data/\n",
                          "sh build.sh");
}

TEST(ScriptShapes, a_script_that_finds_its_own_folder) {
  Workspace tree(
      Files{{"tools/run.sh",
             "#!/bin/sh\nset -e\ncd \"$(dirname \"$0\")/..\"\n. tools/names.sh\n"
             "for part in $PARTS; do cat data/$part.txt; done\nsh \"tools/say.sh\" <data/low.txt\n"},
            {"tools/names.sh", "PARTS='low high'\n"},
            {"tools/say.sh", "cat\n"},
            {"data/low.txt", "low\n"},
            {"data/high.txt", "high\n"}});
  Outcome moved = expect_move_keeps_build(tree, "tools/ -> ci/tools/\ndata/ -> share/data/\n",
                                          "sh $(find . -name run.sh)");
  EXPECT_NE(moved.out.find("cd \"$(dirname \"$0\")/../..\""), std::string::npos) << moved.told;
}

TEST(ScriptShapes, a_folder_that_a_script_writes_to_follows) {
  Workspace tree(Files{{"run.sh", "#!/bin/sh\nset -e\ndate >data/today.txt\nls data | grep -c today\n"},
                       {"data/levels.txt", "low\n"}});
  expect_move_keeps_build(tree, "data/ -> share/data/\n", "sh run.sh");
}

TEST(ScriptShapes, a_path_that_fits_from_another_folder_after_the_move_is_still_wrong) {
  Workspace tree(
      {{"contrib/manual/make.sh", "#!/bin/sh\ncat ../../lib/tide.h > manual.txt\ncat ../../lib/tide.h\n"},
       {"lib/tide.h", "tide\n"}});
  Outcome moved = expect_move_keeps_build(tree, "contrib -> extra/contrib\n",
                                          "d=$(dirname $(find . -name make.sh)) && cd $d && sh ./make.sh");
  EXPECT_NE(moved.out.find("cat ../../../lib/tide.h"), std::string::npos) << moved.told;
}

TEST(ScriptShapes, pattern_of_a_command_gets_back_what_it_loses) {
  Workspace tree({{"count.sh", "#!/bin/sh\nMODE=all cat *.txt | sort | tr a-z A-Z\n"},
                  {"a.txt", "a\n"},
                  {"b.txt", "b\n"},
                  {"net/c.csv", "c\n"}});
  expect_move_says(tree, "a.txt -> net/a.txt\n", {"cat *.txt net/*.txt"}, "sh count.sh");
}

// A shell takes a pattern that finds nothing for a name.
TEST(ScriptShapes, pattern_of_a_loop_that_would_find_nothing_goes) {
  const char* const kTail = "; do\n  cat \"$file\"\ndone\n";
  for (std::string head : {"for file in parts/*", "D=parts\nfor file in $D/*"}) {
    Workspace tree(Files{{"run.sh", "#!/bin/sh\nset -e\n" + head + kTail},
                         {"parts/low.txt", "low\n"},
                         {"parts/tide.txt", "tide\n"}});
    Outcome moved = expect_move_keeps_build(
        tree, "parts/low.txt -> a/low.txt\nparts/tide.txt -> b/tide.txt\n", "sh run.sh");
    EXPECT_NE(moved.out.find("for file in a/* b/*; do"), std::string::npos) << moved.told;
  }
}

}  // namespace
}  // namespace yc::test
