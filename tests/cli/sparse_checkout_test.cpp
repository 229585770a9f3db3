// Sparse checkouts: what is left out of the working tree belongs to the project, and is read and never
// changed.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

using ::testing::HasSubstr;
using ::testing::Not;

const Files kNetwork = {
    {"lib/tide.c", "#include \"tide.h\"\nint tide(void) { return 1; }\n"},
    {"lib/tide.h", "int tide(void);\n"},
    {"lib/gauge.c", "int gauge(void) { return 2; }\n"},
    {"tools/Makefile", "show: show.c ../lib/tide.c\n\t$(CC) -o $@ show.c ../lib/tide.c\n"},
    {"tools/show.c", "#include \"../lib/tide.h\"\nint main(void) { return tide() - 1; }\n"},
    {"tools/check.sh", "#!/bin/sh\nexit 0\n"},
};

// A repository with all of them, of which only `lib` is checked out.
void make_sparse(const Workspace& tree, const std::string& more = "true") {
  setenv("GIT_CONFIG_GLOBAL", "/dev/null", 1);
  Outcome made = tree.shell(
      "chmod +x tools/check.sh && git init -q . && git add -A && git -c user.name=t -c "
      "user.email=t@example.org "
      "commit -qm all && git sparse-checkout set lib && test ! -e tools && " +
      more);
  ASSERT_EQ(made.status, 0) << made.told;
}

TEST(Sparse, what_is_left_out_and_names_what_moves_holds_it_back) {
  Workspace tree(kNetwork);
  make_sparse(tree);
  auto before = tree.contents();
  Outcome source = tree.run({"move", "lib/tide.c", "lib/level.c"});
  EXPECT_EQ(source.status, 3) << source.told;
  EXPECT_THAT(source.err, HasSubstr("tools/Makefile:1:14: names what moves, and is not checked out here"));
  EXPECT_THAT(source.err, HasSubstr("git sparse-checkout add tools"));
  EXPECT_EQ(tree.run({"move", "lib/tide.c", "lib/level.c", "--accept-unseen"}).status, 3)
      << "it is no doubt, it is known";
  Outcome header = tree.run({"move", "lib/tide.h", "include/tide.h"});
  EXPECT_EQ(header.status, 3) << header.told;
  EXPECT_THAT(header.err, HasSubstr("tools/show.c:1:11"));
  EXPECT_EQ(tree.contents(), before);

  ASSERT_EQ(tree.shell("git sparse-checkout add tools").status, 0);
  Outcome moved = tree.run({"move", "lib/tide.c", "lib/level.c"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_EQ(tree.shell("make -C tools").status, 0);
}

TEST(Sparse, what_nobody_names_there_moves_and_the_rest_stays_left_out) {
  Workspace tree(kNetwork);
  make_sparse(tree);
  std::string listed = tree.shell("git ls-files -t tools").out;
  Outcome moved = tree.run({"move", "lib/gauge.c", "lib/pole.c"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_THAT(moved.out, HasSubstr("Done and verified"));
  EXPECT_EQ(tree.shell("git ls-files -t tools").out, listed);
  EXPECT_THAT(tree.shell("git status --short").out, "R  lib/gauge.c -> lib/pole.c\n");
  EXPECT_THAT(tree.run({"survey"}).out, HasSubstr("3 of them not checked out"));
  EXPECT_THAT(tree.run({"survey", "--format", "json"}).out, HasSubstr("\"not_checked_out\": 3"));
  EXPECT_EQ(tree.run({"check"}).status, 0) << "what is left out is there";
  EXPECT_EQ(tree.run({"undo"}).status, 0);
}

TEST(Sparse, a_file_or_folder_of_it_cannot_move_nor_be_taken_for_free) {
  Workspace tree(kNetwork);
  make_sparse(tree, "git sparse-checkout set --no-cone '/lib/' '!/lib/tide.h'");
  EXPECT_THAT(tree.run({"move", "tools/show.c", "lib/show.c"}).err, HasSubstr("is not checked out here"));
  EXPECT_THAT(tree.run({"move", "lib/gauge.c", "tools/show.c"}).err, HasSubstr("exists already"));
  Outcome whole = tree.run({"move", "lib", "core"});
  EXPECT_EQ(whole.status, 3) << whole.told;
  EXPECT_THAT(whole.err, HasSubstr("lib/tide.h: is to move with lib, and is not checked out here"));
}

TEST(Sparse, a_rehearsal_builds_all_of_the_project) {
  Workspace tree(kNetwork);
  make_sparse(tree);
  Outcome built = tree.run({"move", "lib/gauge.c", "lib/pole.c", "--", "sh", "-c",
                            "make -C tools && ./tools/show && tools/check.sh"});
  EXPECT_EQ(built.status, 0) << built.told;
  EXPECT_FALSE(tree.exists("tools"));
}

TEST(Sparse, what_is_protected_may_name_what_it_likes) {
  Workspace tree(kNetwork);
  make_sparse(tree);
  tree.write("yellow-compass.toml", "protected = [\"tools\"]\n");
  EXPECT_EQ(tree.run({"move", "lib/tide.c", "lib/level.c"}).status, 0);
}

TEST(Sparse, a_clone_without_what_is_left_out_raises_a_doubt) {
  Workspace tree(kNetwork);
  make_sparse(tree, "git config uploadpack.allowFilter true");
  Workspace part;
  Outcome cloned = part.shell("git clone -q --filter=blob:none --sparse 'file://" + tree.root() +
                              "' . && git sparse-checkout set lib");
  ASSERT_EQ(cloned.status, 0) << cloned.told;
  Outcome held = part.run({"move", "lib/gauge.c", "lib/pole.c"});
  EXPECT_EQ(held.status, 3) << held.told;
  EXPECT_THAT(held.err, HasSubstr("this clone does not have what it holds"));
  Outcome taken = part.run({"move", "lib/gauge.c", "lib/pole.c", "--accept-unseen"});
  EXPECT_EQ(taken.status, 0) << taken.told;
  EXPECT_THAT(taken.out, Not(HasSubstr("verified")));
  EXPECT_EQ(part.shell("git status --short").out, "R  lib/gauge.c -> lib/pole.c\n");
}

TEST(Sparse, an_index_that_names_folders_only_is_told) {
  Workspace tree(kNetwork);
  make_sparse(tree, "git sparse-checkout set --sparse-index lib");
  Outcome staged = tree.run({"move", "lib/gauge.c", "lib/pole.c"});
  EXPECT_EQ(staged.status, 3) << staged.told;
  EXPECT_THAT(staged.err, HasSubstr("git sparse-checkout reapply --no-sparse-index"));
  EXPECT_EQ(tree.run({"move", "lib/gauge.c", "lib/pole.c", "--no-stage"}).status, 3);
  EXPECT_THAT(tree.run({"survey"}).out, HasSubstr("more that are not checked out"));
  ASSERT_EQ(tree.shell("git sparse-checkout reapply --no-sparse-index").status, 0);
  EXPECT_EQ(tree.run({"move", "lib/gauge.c", "lib/pole.c"}).status, 0);
}

}  // namespace
}  // namespace yc::test
