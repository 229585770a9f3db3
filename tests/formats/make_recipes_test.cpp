// A rule's recipe is expanded once for all its targets. That must come to the same as expanding it for each.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <set>

#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsSupersetOf;

std::vector<std::pair<std::string, std::string>> files_with(const std::string& makefile) {
  return {{"Makefile", makefile},
          {"a.c", "#include \"a.h\"\n"},
          {"b.c", "#include <deep.h>\n"},
          {"odd name.c", ""},
          {"src/c.c", ""},
          {"src/d.c", ""},
          {"include/a.h", ""},
          {"include/deep.h", ""},
          {"flags/a.txt", ""},
          {"flags/b.txt", ""},
          {"tools/gen.py", ""},
          {"src/c.in", ""},
          {"src/d.in", ""}};
}

// What leads where, by the bytes that say so. The lines of recipes may differ in what they repeat of the
// rule.
std::set<std::string> leads(const ReferenceGraph& graph) {
  std::set<std::string> out;
  for (const Reference& reference : graph.references) {
    Standing at = standing_of(reference);
    for (const Target& target : reference.targets) {
      if (target.kind == Target::Kind::tree)
        out.insert(graph.files.path(at.file).str() + "@" + std::to_string(at.span.begin) + " -> " +
                   target.path.str());
    }
  }
  return out;
}

class Recipes : public ::testing::TestWithParam<std::string> {};

TEST_P(Recipes, once_for_all_targets_means_the_same_as_for_each) {
  ReferenceGraph once = read(tree_of(files_with(GetParam())));
  // A variable of every target's own: now each recipe is expanded by itself.
  ReferenceGraph each = read(tree_of(files_with(GetParam() + "\n%: UNUSED = 1\n")));
  EXPECT_EQ(compiled(once), compiled(each));
  EXPECT_EQ(leads(once), leads(each));
  EXPECT_FALSE(leads(once).empty());
}

INSTANTIATE_TEST_SUITE_P(
    Makefiles, Recipes,
    ::testing::Values(
        "p: a.o b.o\n\tcc -o $@ $^\n%.o: %.c\n\tcc -Iinclude -c -o $@ $<\n",
        "p: a.o b.o\n%.o: %.c\n\tcc -c $<\n",  // names the object itself
        "p: a.o b.o\n%.o: %.c\n\tcc -Iinclude -include flags/$*.txt -c $< -o $@\n",  // differs by target
        "p: out/a.o out/b.o\nout/%.o: %.c\n\tmkdir -p $(@D)\n\tcc -c -o $@ $<\n",
        "p: src/c.o src/d.o\nsrc/%.o: src/%.c\n\tcc -I$(@D) -c -o $@ $<\n",
        "p: src/c.o src/d.o\nsrc/%.o: src/%.c\n\tcd src && cc -I../include -c $(notdir $<)\n",
        "OBJ = a.o b.o\n$(OBJ): %.o: %.c include/a.h\n\t$(CC) -Iinclude -c $< -o $@\np: $(OBJ)\n",
        "p: src/c.c2 src/d.c2\nsrc/%.c2: src/%.in tools/gen.py\n\ttools/gen.py < $< > $@\n",
        "p: a.o b.o\n%.o: %.c\n\tfor f in $^; do cc -Iinclude -c $$f -o $@; done\n",
        "p: a.o b.o\n%.o: %.c\n\tIN=$< OUT=$@ cc -Iinclude -c $$IN -o $$OUT\n",
        "p: a.o b.o\nX = $(if $(findstring a,$<),-Iinclude)\n%.o: %.c\n\tcc $(X) -c -o $@ $<\n",
        "p: a.o b.o\nC = cc -Iinclude\n%.o: %.c\n\t@$(C) -c -o $@ $(<:.x=.c)\n",
        "p: a.o src/c.o\nD = $(dir $@).deps/$(notdir $@).d\n%.o: %.c\n\tcc -Iinclude -MF $(D) -c -o $@ $<\n",
        "p: src/c.o src/d.o\nI = -I$(dir $<)../include\n%.o: %.c\n\tcc $(I) -g $(basename $<).c -c -o $@\n",
        "p: src/c.o a.o\nf = -I$(1)include\n%.o: %.c\n\tcc $(call f,$(dir $@)) -c -o $@ $<\n",
        "p: src/c.o src/d.o\n%.o: %.c\n\tcc $(foreach d,include src,-I$d -MF $d/$@.d) -c -o $*.o $<\n",
        "p: a.o b.o\na_f = -Iinclude\nb_f = -Isrc\n%.o: %.c\n\tcc $($*_f) -c -o $@ $<\n",
        "p: a.o b.o\n%.o: %.c\n\tcc -g -Wall -Iinclude -o $(<:.c=.o) -c $< && >$@.done\n",
        "p: a.x\n%.x: %.o b.o\n\tcc -o $@ $^\n%.o: %.c\n\tcc -Iinclude -c -o $@ $<\n",
        "p: src/c.c include/a.h\n\tcc -Iinclude -o $@ a.c $<\n",
        "p: a.o b.o\n%.o: %.c\n\tcc -Iinclude -o $@ src/c.c $<\n", "p: a.c\n\tcc -Iinclude -o p a.c b.c\n",
        "p: a.c b.c\n\tcc -Iinclude $^ -o $@\n\tcp $< include/a.h $(@D)\n",
        "p: a.o z.o\nz.c: a.c\n\tcp a.c $@\n%.o: %.c\n\tcc -Iinclude -c -o $@ $<\n"));

TEST(RecipeShapes, first_target_without_a_source_of_its_own_leaves_the_context_to_the_next) {
  ReferenceGraph graph = read(tree_of(files_with(
      "p: z.o a.o\nz.c: tools/gen.py\n\ttools/gen.py > z.c\n%.o: %.c\n\tcc -Iinclude -c -o $@ $<\n")));
  EXPECT_THAT(compiled(graph), IsSupersetOf({"a.c [include]"}));
}

TEST(RecipeShapes, root_that_depends_on_the_target_is_each_targets_own) {
  ReferenceGraph graph = read(tree_of(files_with("p: src/c.o a.o\n%.o: %.c\n\tcc -I$(@D) -c -o $@ $<\n")));
  EXPECT_THAT(compiled(graph), ElementsAre("a.c []", "src/c.c [src]"));
}

TEST(RecipeShapes, what_every_target_shares_is_one_reference) {
  ReferenceGraph graph =
      read(tree_of(files_with("p: a.o b.o\n%.o: %.c\n\tcc -Iinclude -include include/a.h -c -o $@ $<\n")));
  int roots = 0;
  for (const Reference& reference : graph.references) roots += reference.role == Role::search_root;
  EXPECT_EQ(roots, 1);
}

}  // namespace
}  // namespace yc::test
