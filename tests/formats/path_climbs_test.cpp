#include "formats/python/path_climbs.h"

#include <gtest/gtest.h>

#include "formats/shell/command_output.h"

namespace yc::test {
namespace {

TEST(PathClimbs, an_expression_climbs_further_or_less_far) {
  struct Case {
    const char* expression;
    int more;
    const char* wanted;  // null where it cannot
  };
  for (const Case& one : std::initializer_list<Case>{
           {"Path(__file__).resolve().parents[1]", 1, "Path(__file__).resolve().parents[2]"},
           {"Path(__file__).parents[1]", -1, "Path(__file__).parents[0]"},
           {"Path(__file__).parents[0]", -1, nullptr},
           {"Path(__file__).parents[level]", 1, nullptr},
           {"HERE.parent.parent", 1, "HERE.parent.parent.parent"},
           {"HERE.parent.parent", -2, "HERE"},
           {"HERE.parent", -2, nullptr},
           {"dirname(dirname(__file__))", 1, "dirname(dirname(dirname(__file__)))"},
           {"up(up((abspath(__file__))))", 1, "up(up(up((abspath(__file__)))))"},
           {"up(up(__file__))", -1, "up(__file__)"},
           {"os.path.dirname(os.path.dirname(__file__))", -1, "os.path.dirname(__file__)"},
           {"dirname(__file__)", -2, nullptr},
           {"dirname(a) + dirname(b)", 1, nullptr},
           {"HERE", 1, nullptr}}) {
    auto found = python::climbing(one.expression, one.more);
    ASSERT_EQ(found.has_value(), one.wanted != nullptr) << one.expression;
    EXPECT_EQ(found.value_or(""), one.wanted ? one.wanted : "");
  }
}

TEST(PathClimbs, so_does_a_substitution_of_a_shell) {
  EXPECT_EQ(shell::climbing("$(dirname \"$HERE\")", 1), "$(dirname \"$(dirname \"$HERE\")\")");
  EXPECT_EQ(shell::climbing("$(dirname \"$(dirname \"$HERE\")\")", -2), "$HERE");
  EXPECT_EQ(shell::climbing("$(dirname $HERE)", -1), "$HERE");
  EXPECT_EQ(shell::climbing("$(dirname \"$HERE\")", -2), std::nullopt);
  EXPECT_EQ(shell::climbing("$(dirname lib/a.sh)", 1), std::nullopt);
  EXPECT_EQ(shell::climbing("$HERE", 1), std::nullopt);
}

}  // namespace
}  // namespace yc::test
