// The part of a tree that a plan touches, drawn before and after it.
#pragma once

#include <string>
#include <vector>

#include "plan/plan.h"
#include "report/text.h"

namespace yc::report {

struct TreeLine {
  std::string text;  // with its indent, without its mark
  char mark = ' ';
  RelPath path = {};  // the root for a line that counts what is not shown
};
struct TreeLines {
  std::vector<TreeLine> before, after;
};
TreeLines tree_lines(const Plan& plan, const TreeReader& tree);

// Both trees, side by side where `width` columns are enough for that, else one below the other. Folders that
// move whole are one line; what is not touched is counted. Marks: "-" goes from here, "+" comes here, "~" is
// edited,
// "*" is made, "x" is taken away.
std::string trees_text(const Plan& plan, const TreeReader& tree, const TextStyle& style, std::size_t width);

}  // namespace yc::report
