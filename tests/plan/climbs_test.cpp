#include "plan/climbs.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Each;
using ::testing::ElementsAre;
using ::testing::HasSubstr;
using ::testing::IsEmpty;
using ::testing::Not;

TEST(Climbs, the_first_folder_that_is_not_there) {
  MemoryTree tree = tree_of({{"src/net/a.c", ""}});
  auto missing = [&](const char* base, const char* text) {
    auto found = missing_on_the_way(tree, at(base), text);
    return found ? found->str() : "none";
  };
  EXPECT_EQ(missing("", "src/../core/a.c"), "none");
  EXPECT_EQ(missing("", "lib/../core/a.c"), "lib");
  EXPECT_EQ(missing("", "src/net/x/../../a.c"), "src/net/x");
  EXPECT_EQ(missing("src/net", "../../gone/a.c"), "none") << "nothing is climbed out of by name";
  EXPECT_EQ(missing("src", "net/./../b.c"), "none");
  EXPECT_EQ(missing("", "/usr/lib/../include"), "none");
}

// "src/../core" is no way to core once there is no src.
TEST(Climbs, texts_that_climb_out_of_what_goes) {
  TreeFiles files = {{"Makefile", "all:\n\tcc -Isrc/../include -o t main.c\n"},
                     {"main.c", "#include <level.h>\n"},
                     {"include/level.h", ""},
                     {"src/a.txt", ""}};
  EXPECT_THAT(edits(planned(files, {{"src", "data/src"}})),
              ElementsAre("Makefile: src/../include -> include"));
  TreeFiles glued = files;
  glued[0].second = "S = src\nall:\n\tcc -I$(S)/../include -o t main.c\n";
  EXPECT_THAT(reasons(planned(glued, {{"src", "data/src"}})), ElementsAre("lost-way Makefile"))
      << "no word alone can say it";
  files.emplace_back("src/b.txt", "");
  EXPECT_THAT(edits(planned(files, {{"src/a.txt", "data/a.txt"}})), IsEmpty()) << "the folder stays";
}

TEST(Climbs, out_of_a_folder_that_was_never_there_are_none_of_the_moves_business) {
  TreeFiles files = {{"t/paths.sh", "norm_path dir/.. \"\"\nnorm_path sub/../lib/a.txt lib/a.txt\n"},
                     {"t/lib/a.txt", ""},
                     {"lib/a.txt", ""}};
  EXPECT_THAT(edits(planned(files, {{"lib/a.txt", "data/a.txt"}})), Each(Not(HasSubstr(".."))));
}

}  // namespace
}  // namespace yc::test
