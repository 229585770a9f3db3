// The promises, on generated trees: what everything leads to stays the same, nothing else changes, there and
// back.
#include <gtest/gtest.h>

#include "plan/plan.h"
#include "support/generated_tree.h"

namespace yc::test {
namespace {

std::string told(const Plan& plan) {
  std::string out;
  for (const Move& move : plan.moves.requested()) out += move.from.str() + " -> " + move.to.str() + "\n";
  for (const Blocker& item : plan.blockers)
    out += item.file.str() + ": " + item.text + " " + item.reason + "\n";
  for (const PlannedEdit& edit : plan.edit_list)
    out += edit.file.str() + ": \"" + edit.before + "\" becomes \"" + edit.after + "\"\n";
  return out;
}

// Only paths change: an edit's bytes are those of a path, or of an option or a blank beside one.
bool is_path_text(const std::string& text) {
  return text.find_first_not_of("abcdefghijklmnopqrstuvwxyzI0123456789_./- \n") == std::string::npos;
}

struct Tally {
  int moved = 0;
  int refused = 0;
};

Tally try_seed(unsigned seed, BuildKind kind) {
  Tally tally;
  GeneratedProject project = generate(seed, kind);
  std::mt19937 random(seed * 7919 + 1);
  Meaning before = meaning(project.tree, kind);
  for (int i = 0; i < 4; ++i) {
    auto moves = MoveSet::make(project.tree, random_moves(project, random));
    if (!moves || moves->files().empty()) continue;
    Plan plan = make_plan(project.tree, std::move(*moves), {});
    if (!plan.verified) {
      ++tally.refused;
      EXPECT_FALSE(plan.blockers.empty()) << "seed " << seed;
      continue;
    }
    ++tally.moved;
    MemoryTree after = carried_out(project.tree, plan);
    EXPECT_EQ(meaning(after, kind), before) << "seed " << seed << "\n" << told(plan);
    for (const PlannedEdit& edit : plan.edit_list) {
      EXPECT_TRUE(is_path_text(edit.before) && is_path_text(edit.after)) << "seed " << seed << "\n"
                                                                         << told(plan);
    }
    std::vector<Move> back;
    for (const Move& move : plan.moves.requested()) back.push_back({move.to, move.from});
    auto return_moves = MoveSet::make(after, back);
    if (!return_moves) continue;  // what was merged into a folder that had files cannot return as a folder
    Plan return_plan = make_plan(after, std::move(*return_moves), {});
    if (!return_plan.verified) continue;
    EXPECT_EQ(meaning(carried_out(after, return_plan), kind), before) << "seed " << seed << " and back\n"
                                                                      << told(plan) << told(return_plan);
  }
  return tally;
}

class Promise : public ::testing::TestWithParam<BuildKind> {};

TEST_P(Promise, graph_after_a_move_is_the_image_of_the_graph_before) {
  Tally all;
  for (unsigned seed = 1; seed <= 150; ++seed) {
    Tally one = try_seed(seed, GetParam());
    all.moved += one.moved;
    all.refused += one.refused;
  }
  EXPECT_GT(all.moved, 300);
  EXPECT_LT(all.refused * 20, all.moved) << all.refused << " refused, " << all.moved << " moved";
}

INSTANTIATE_TEST_SUITE_P(Kinds, Promise, ::testing::Values(BuildKind::make, BuildKind::cmake),
                         [](const auto& kind) { return kind.param == BuildKind::make ? "make" : "cmake"; });

// Where every path is spelled in the one way that the tool itself would write, a move and its reverse change
// nothing.
TEST(PromiseOnOneTree, there_and_back_gives_the_first_tree) {
  MemoryTree tree;
  tree.write(
      "Makefile",
      "CFLAGS = -Iinclude\nSRC = src/main.c src/gauge.c\nstation: $(SRC)\n\t$(CC) $(CFLAGS) -o $@ $(SRC)\n");
  tree.write("src/main.c", "#include \"gauge.h\"\n#include <tide/level.h>\n");
  tree.write("src/gauge.c", "#include \"gauge.h\"\n");
  tree.write("src/gauge.h", "\n");
  tree.write("include/tide/level.h", "\n");
  auto at = [](const char* text) { return RelPath::from_normal(text); };
  const std::vector<std::pair<std::vector<Move>, std::vector<Move>>> trips = {
      {{{at("src"), at("firmware/core")}}, {{at("firmware/core"), at("src")}}},
      {{{at("src/main.c"), at("app/main.c")}}, {{at("app/main.c"), at("src/main.c")}}},
      {{{at("include/tide"), at("include/water")}}, {{at("include/water"), at("include/tide")}}},
      {{{at("src/main.c"), at("src/gauge.c")}, {at("src/gauge.c"), at("src/main.c")}},
       {{at("src/main.c"), at("src/gauge.c")}, {at("src/gauge.c"), at("src/main.c")}}},
      {{{at("src/gauge.h"), at("src/private.h")}}, {{at("src/private.h"), at("src/gauge.h")}}},
  };
  for (const auto& [there, back] : trips) {
    Plan out = make_plan(tree, *MoveSet::make(tree, there), {});
    ASSERT_TRUE(out.verified) << told(out);
    MemoryTree moved = carried_out(tree, out);
    Plan home = make_plan(moved, *MoveSet::make(moved, back), {});
    ASSERT_TRUE(home.verified) << told(home);
    EXPECT_EQ(contents(carried_out(moved, home)), contents(tree)) << told(out) << told(home);
  }
}

}  // namespace
}  // namespace yc::test
