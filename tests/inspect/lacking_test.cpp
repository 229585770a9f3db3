// What a tree lacks although no text in it leads nowhere.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "inspect/inspect.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

// "id file", notes in brackets, with what was most likely meant.
std::vector<std::string> found(const TreeFiles& files) {
  MemoryTree tree = tree_of(files);
  std::vector<std::string> out;
  for (const Finding& finding : check(tree, read(tree))) {
    std::string line = finding.id + " " + finding.file.str();
    if (!finding.suggestion.empty()) line += " -> " + finding.suggestion;
    out.push_back(finding.is_note ? "(" + line + ")" : line);
  }
  return out;
}

TEST(Lacking, patterns_whose_folder_is_gone) {
  EXPECT_THAT(found({{"Makefile", "SRC = $(wildcard gauges/*.c)\nall: $(SRC)\n\tcc -o t $(SRC)\n"},
                     {"src/gauges/tide.c", ""}}),
              ElementsAre("empty-pattern Makefile -> src/gauges"));
  EXPECT_THAT(found({{"Makefile", "SRC = $(wildcard made/*.c)\nall: $(SRC)\n\tcc -o t $(SRC)\n"}}),
              ElementsAre("(empty-pattern Makefile)"));
  EXPECT_THAT(found({{"Makefile", "SRC = $(wildcard src/*.c)\nall: $(SRC)\n\tcc -o t $(SRC)\n"},
                     {"src/tide.h", ""},
                     {"other/src/a.c", ""}}),
              IsEmpty())
      << "the folder is there";
}

TEST(Lacking, folders_that_are_only_called_alike) {
  EXPECT_THAT(found({{"Makefile", "SRC = $(wildcard bin/*.c)\nall: $(SRC)\n\tcc -o t $(SRC)\n"},
                     {"tools/bin/run.sh", "#!/bin/sh\n"}}),
              ElementsAre("(empty-pattern Makefile)"));
}

TEST(Lacking, sources_that_no_unit_compiles) {
  TreeFiles files = {{"Makefile", "all: main.c\n\tcc -Iinclude -o t main.c\n"},
                     {"main.c", "#include <level.h>\n"},
                     {"loose/tide.c", "#include \"level.h\"\n#include \"units.h\"\n"},
                     {"include/level.h", ""},
                     {"include/units.h", ""}};
  EXPECT_THAT(found(files), ElementsAre("(uncompiled loose/tide.c)"));
  files[0].second += "loose:\n\tcc -Iinclude -o l loose/tide.c\n";
  EXPECT_THAT(found(files), IsEmpty());
  files.erase(files.begin());
  EXPECT_THAT(found(files), IsEmpty()) << "nothing says how any source is compiled";
}

TEST(Lacking, targets_that_no_script_makes) {
  auto project = [](const std::string& more) {
    return TreeFiles{{"CMakeLists.txt",
                      "project(tides)\nadd_library(level level.c)\nadd_library(Salt::level ALIAS "
                      "level)\nadd_executable(view view.c)\n" +
                          more},
                     {"level.c", ""},
                     {"view.c", ""}};
  };
  EXPECT_THAT(found(project("target_link_libraries(view PRIVATE Salt::level Salt::chart Qt6::Core m)\n")),
              ElementsAre("unknown-target CMakeLists.txt"));
  EXPECT_THAT(found(project("add_library(Salt::chart ALIAS chart)\n")),
              ElementsAre("unknown-target CMakeLists.txt"));
  EXPECT_THAT(found(project("if(CHARTS)\n  add_library(Salt::chart ALIAS level)\nendif()\n"
                            "target_link_libraries(view PRIVATE Salt::chart)\n")),
              IsEmpty())
      << "on one side of a conditional there is one";
}

TEST(Lacking, crates_that_their_workspace_does_not_take_in) {
  TreeFiles files = {{"Cargo.toml", "[workspace]\nmembers = [\"crates/*\"]\n"},
                     {"crates/level/Cargo.toml",
                      "[package]\nname = \"level\"\n[dependencies]\nunits = { path = \"../../units\" }\n"},
                     {"crates/level/src/lib.rs", ""},
                     {"units/Cargo.toml", "[package]\nname = \"units\"\n"},
                     {"units/src/lib.rs", ""},
                     {"crates/level/tests/data/Cargo.toml", "[package]\nname = \"data\"\n"},
                     {"lost/Cargo.toml", "[package]\nname = \"lost\"\n"},
                     {"lost/src/lib.rs", ""}};
  EXPECT_THAT(found(files), ElementsAre("outside-workspace lost/Cargo.toml"));
  files[0].second += "exclude = [\"lost\"]\n";
  EXPECT_THAT(found(files), IsEmpty());
}

TEST(Lacking, packages_that_others_depend_on_by_their_folders) {
  EXPECT_THAT(found({{"board/package.json",
                      "{ \"name\": \"board\", \"dependencies\": { \"level\": \"file:../levle\", \"units\": "
                      "\"link:../units/\" } }\n"},
                     {"level/package.json", "{ \"name\": \"level\" }\n"},
                     {"units/package.json", "{ \"name\": \"units\" }\n"}}),
              ElementsAre("dangling board/package.json"));
}

}  // namespace
}  // namespace yc::test
