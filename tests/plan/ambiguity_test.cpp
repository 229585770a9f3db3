// Names that could mean two things: shadowed headers, objects of one name, lists whose order counts.
#include "plan/ambiguity.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "plan/plan.h"
#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::HasSubstr;
using ::testing::IsEmpty;

using Files = std::vector<std::pair<std::string, std::string>>;

Plan moved(const MemoryTree& tree, const std::string& from, const std::string& to, PlanOptions options = {}) {
  return make_plan(tree, *MoveSet::make(tree, {{RelPath::from_normal(from), RelPath::from_normal(to)}}),
                   options);
}

std::vector<std::string> reasons(const Plan& plan) {
  std::vector<std::string> out;
  for (const Blocker& item : plan.blockers) out.push_back(item.id + ": " + item.reason);
  return out;
}

TEST(Ambiguity, a_header_that_hides_another_one) {
  Files files = {{"Makefile", "a: a.c\n\tcc -Inew -Iold -o a a.c\n"},
                 {"a.c", "#include \"tide.h\"\n#include <only.h>\n"},
                 {"new/tide.h", ""},
                 {"old/tide.h", ""},
                 {"old/only.h", ""}};
  ReferenceGraph graph = read(tree_of(files));
  std::vector<Shadowing> found = shadowed_includes(tree_of(files), graph);
  ASSERT_EQ(found.size(), 1U);
  EXPECT_EQ(found[0].chosen.str(), "new/tide.h");
  EXPECT_EQ(found[0].other.str(), "old/tide.h");
}

TEST(Ambiguity, a_move_that_hides_a_header_says_so) {
  MemoryTree tree = tree_of({{"Makefile", "a: a.c\n\tcc -Inew -Iold -o a a.c\n"},
                             {"a.c", "#include \"tide.h\"\n#include \"low.h\"\n"},
                             {"new/tide.h", ""},
                             {"old/low.h", ""}});
  Plan plan = moved(tree, "old/low.h", "old/tide.h");
  ASSERT_TRUE(plan.verified) << ::testing::PrintToString(reasons(plan));
  bool told = false;
  for (const Notice& notice : plan.notices) told = told || notice.id == "shadowed";
  EXPECT_TRUE(told);
}

// Two sources of one name come to one object where a list loses its folders.
TEST(Ambiguity, objects_of_one_name_are_told_before_a_move_makes_them) {
  MemoryTree tree = tree_of({{"Makefile",
                              "VPATH = src lib\nSRC = src/main.c lib/pins.c\nOBJ = $(notdir $(SRC:.c=.o))\n"
                              "a: $(OBJ)\n\tcc -o $@ $^\n"},
                             {"src/main.c", ""},
                             {"lib/pins.c", ""}});
  EXPECT_TRUE(read(tree).clashes.empty());
  Plan plan = moved(tree, "lib/pins.c", "lib/main.c");
  EXPECT_FALSE(plan.verified);
  EXPECT_THAT(
      reasons(plan),
      ElementsAre(
          "object-clash: main.o would be made from lib/main.c and from src/main.c, one over the other"));
}

// What one system is built of and what another one is never meet; nor do the objects of two lists.
TEST(Ambiguity, sides_of_a_conditional_and_separate_lists_do_not_clash) {
  MemoryTree tree =
      tree_of({{"Makefile",
                "ifeq ($(OS),dos)\nSRC = dos/net.c\nelse\nSRC = unix/net.c\nendif\nVPATH = dos unix\n"
                "p: $(addprefix obj/,$(notdir $(SRC:.c=.o)))\n\tcc -o $@ $^\nobj/%.o: %.c\n\tcc -c -o $@ $<\n"
                "A = $(notdir a/x.c)\nB = $(notdir b/x.c)\nq:\n\techo $(A) $(B)\n"},
               {"dos/net.c", ""},
               {"unix/net.c", ""},
               {"a/x.c", ""},
               {"b/x.c", ""}});
  EXPECT_TRUE(read(tree).clashes.empty());
}

TEST(Ambiguity, automake_puts_objects_side_by_side_unless_told_otherwise) {
  Files files = {
      {"configure.ac", "AC_INIT([tide],[1])\nAM_INIT_AUTOMAKE([foreign])\nAC_CONFIG_FILES([Makefile])\n"},
      {"Makefile.am", "bin_PROGRAMS = tide\ntide_SOURCES = a/low.c b/high.c\n"},
      {"a/low.c", ""},
      {"b/high.c", ""}};
  EXPECT_THAT(reasons(moved(tree_of(files), "b/high.c", "b/low.c")),
              ElementsAre(HasSubstr("low.o would be made from a/low.c and from b/low.c")));
  files[0].second =
      "AC_INIT([tide],[1])\nAM_INIT_AUTOMAKE([foreign subdir-objects])\nAC_CONFIG_FILES([Makefile])\n";
  EXPECT_THAT(reasons(moved(tree_of(files), "b/high.c", "b/low.c")), IsEmpty());
}

TEST(PrintedOrder, a_list_that_is_handed_on_keeps_its_order) {
  auto tree = [](const std::string& recipe) {
    return tree_of(
        {{"Makefile", "one.c: a.c b.c c.c\n\t" + recipe + "\n"}, {"a.c", ""}, {"b.c", ""}, {"c.c", ""}});
  };
  for (const char* recipe : {"ls a.c b.c c.c | awk 1 > $@", "ls a.c b.c c.c > $@", "cat *.c > $@"}) {
    EXPECT_THAT(reasons(moved(tree(recipe), "b.c", "core/b.c")), ElementsAre(HasSubstr("order: "))) << recipe;
    PlanOptions accepting;
    accepting.accept_unseen = true;
    EXPECT_THAT(reasons(moved(tree(recipe), "b.c", "core/b.c", accepting)), IsEmpty()) << recipe;
  }
  EXPECT_THAT(reasons(moved(tree("ls a.c b.c c.c | awk 1 > $@"), "b.c", "bb.c")), IsEmpty())
      << "it still sorts there";
  for (const char* recipe :
       {"ls a.c b.c c.c", "ls a.c b.c c.c | wc -l", "ls a.c b.c c.c | sort -r", "cat a.c b.c c.c > $@"})
    EXPECT_THAT(reasons(moved(tree(recipe), "b.c", "core/b.c")), IsEmpty()) << recipe;
}

}  // namespace
}  // namespace yc::test
