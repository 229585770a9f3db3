// Symbolic links and files that list patterns of paths follow what they name.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "plan/plan.h"
#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

void add_link(MemoryTree& tree, const std::string& path, const std::string& text) {
  Entry entry;
  entry.kind = EntryKind::link;
  tree.write(RelPath::from_normal(path), std::make_shared<std::string>(text), entry);
}

// The edits of a move, each as "file: before -> after"; why not, if it is refused.
std::vector<std::string> edits(const MemoryTree& tree, const std::string& from, const std::string& to) {
  auto moves = MoveSet::make(tree, {{RelPath::from_normal(from), RelPath::from_normal(to)}});
  Plan plan = make_plan(tree, std::move(*moves), {});
  std::vector<std::string> out;
  for (const PlannedEdit& edit : plan.edit_list)
    out.push_back(edit.file.str() + ": " + edit.before + " -> " + edit.after);
  for (const Blocker& item : plan.blockers) out.push_back("refused: " + item.file.str() + " " + item.id);
  return out;
}

TEST(Links, text_follows_its_target_and_its_own_folder) {
  MemoryTree tree = tree_of({{"data/levels.csv", ""}, {"tools/plot.py", ""}});
  add_link(tree, "tools/levels", "../data/levels.csv");
  EXPECT_THAT(edits(tree, "data/levels.csv", "store/2026/levels.csv"),
              ElementsAre("tools/levels: ../data/levels.csv -> ../store/2026/levels.csv"));
  EXPECT_THAT(edits(tree, "tools/levels", "levels"),
              ElementsAre("tools/levels: ../data/levels.csv -> data/levels.csv"));
  EXPECT_THAT(edits(tree, "data", "archive/data"),
              ElementsAre("tools/levels: ../data/levels.csv -> ../archive/data/levels.csv"));
  EXPECT_THAT(edits(tree, "tools/plot.py", "plot.py"), IsEmpty());
}

TEST(Links, those_that_lead_out_of_the_tree_are_left_alone_and_broken_ones_are_found) {
  MemoryTree tree = tree_of({{"a/b.c", ""}});
  add_link(tree, "a/system", "/usr/share/dict");
  add_link(tree, "a/above", "../../elsewhere");
  add_link(tree, "a/gone", "missing.c");
  ReferenceGraph graph = read(tree);
  std::vector<std::string> dangling;
  for (const Reference& reference : graph.references) {
    if (reference.role == Role::link && reference.dangling) dangling.push_back(reference.text.text());
  }
  EXPECT_THAT(dangling, ElementsAre("missing.c"));
  EXPECT_THAT(edits(tree, "a", "deep/er/a"), IsEmpty());
}

TEST(PathLists, anchored_patterns_follow_their_folder) {
  MemoryTree tree = tree_of({{".gitignore", "*.o\n/src/gen/\nsrc/*.tmp\n!src/keep.tmp\n# src/gen\nbuild/\n"},
                             {"src/main.c", ""},
                             {"src/keep.tmp", ""}});
  EXPECT_THAT(edits(tree, "src", "lib/core"),
              ElementsAre(".gitignore: src/gen -> lib/core/gen", ".gitignore: src -> lib/core",
                          ".gitignore: src/keep.tmp -> lib/core/keep.tmp"));
  EXPECT_THAT(edits(tree, "src/main.c", "main.c"), IsEmpty());
}

TEST(PathLists, pattern_that_loses_its_slash_stays_anchored) {
  MemoryTree tree = tree_of({{".gitattributes", "doc/big.bin filter=lfs -text\n*.png binary\n"},
                             {"doc/big.bin", ""},
                             {"doc/x.txt", ""}});
  EXPECT_THAT(edits(tree, "doc/big.bin", "big.bin"), ElementsAre(".gitattributes: doc/big.bin -> /big.bin"));
}

TEST(PathLists, list_in_a_folder_is_relative_to_it_and_cannot_climb) {
  MemoryTree tree = tree_of({{"fw/.gitignore", "/out/log.txt\n"}, {"fw/out/log.txt", ""}, {"fw/a.c", ""}});
  EXPECT_THAT(edits(tree, "fw", "firmware"), IsEmpty());
  EXPECT_THAT(edits(tree, "fw/out/log.txt", "fw/log.txt"),
              ElementsAre("fw/.gitignore: out/log.txt -> log.txt"));
  EXPECT_THAT(edits(tree, "fw/out/log.txt", "log.txt"), ElementsAre("refused: fw/.gitignore lost"));
}

TEST(PathLists, owners_and_editor_sections) {
  MemoryTree tree = tree_of({{".github/CODEOWNERS", "# who\n/gauge/ @tide\ngauge/pump.c @level\n* @all\n"},
                             {".editorconfig", "root = true\n[gauge/**.c]\nindent_size = 4\n[*.py]\n"},
                             {"gauge/pump.c", ""}});
  EXPECT_THAT(edits(tree, "gauge", "fw/gauge"),
              ElementsAre(".editorconfig: gauge -> fw/gauge", ".github/CODEOWNERS: gauge -> fw/gauge",
                          ".github/CODEOWNERS: gauge/pump.c -> fw/gauge/pump.c"));
}

TEST(PathLists, garbled_ones_are_left_alone) {
  std::string odd = "\xff\xfe/\n[\n[]\n!\n/\n//\n\"a b\"/c\nsrc\\ /x\n***/\n";
  MemoryTree tree =
      tree_of({{".gitignore", odd}, {".gitattributes", odd}, {".editorconfig", odd}, {"src/x", ""}});
  EXPECT_THAT(edits(tree, "src", "lib"), IsEmpty());
}

TEST(PathLists, what_a_distribution_holds) {
  MemoryTree tree =
      tree_of({{"MANIFEST", "MANIFEST  this list\ndata/low.txt\ttides\n"}, {"data/low.txt", "1\n"}});
  EXPECT_THAT(edits(tree, "data/low.txt", "low.txt"), ElementsAre("MANIFEST: data/low.txt -> low.txt"));
}

TEST(PathLists, lists_of_a_translation_are_relative_to_the_project) {
  MemoryTree tree = tree_of(
      {{"viewer/po/POTFILES.in", "# what is translated\nsrc/main.c\n[type: gettext/glade]ui/window.ui\n"},
       {"viewer/meson.build", "project('viewer')\n"},
       {"viewer/src/main.c", ""},
       {"viewer/ui/window.ui", ""}});
  EXPECT_THAT(edits(tree, "viewer/src/main.c", "viewer/app/main.c"),
              ElementsAre("viewer/po/POTFILES.in: src/main.c -> app/main.c"));
  EXPECT_THAT(edits(tree, "viewer/ui/window.ui", "shared/window.ui"),
              ElementsAre("viewer/po/POTFILES.in: ui/window.ui -> ../shared/window.ui"));
  EXPECT_THAT(edits(tree, "viewer", "desktop/viewer"), IsEmpty());
}

TEST(PathLists, packaging_lists_are_relative_to_the_folder_above) {
  MemoryTree tree = tree_of({{"debian/tide.install", "data/*.csv usr/share/tide\n"},
                             {"debian/tide.docs", "README.txt\n"},
                             {"data/a.csv", ""},
                             {"README.txt", ""}});
  EXPECT_THAT(edits(tree, "data", "share/data"), ElementsAre("debian/tide.install: data -> share/data"));
  EXPECT_THAT(edits(tree, "README.txt", "docs/README.txt"),
              ElementsAre("debian/tide.docs: README.txt -> docs/README.txt"));
}

TEST(PathLists, compiler_options_one_a_line) {
  MemoryTree tree = tree_of({{"compile_flags.txt", "-Iinclude\n-DDEPTH=2\n-isystem lib/api\n-std=c11\n"},
                             {"include/a.h", ""},
                             {"lib/api/b.h", ""}});
  EXPECT_THAT(edits(tree, "include", "src/include"),
              ElementsAre("compile_flags.txt: include -> src/include"));
  EXPECT_THAT(edits(tree, "lib", "third/lib"), ElementsAre("compile_flags.txt: lib/api -> third/lib/api"));
}

}  // namespace
}  // namespace yc::test
