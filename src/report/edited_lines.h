// Whole lines that edits touch, before and after.
#pragma once

#include <string>
#include <vector>

#include "plan/plan.h"

namespace yc::report {

struct EditedLines {
  RelPath file;          // path before the move
  std::size_t line = 1;  // number of the first line, before
  std::vector<std::string> before;
  std::vector<std::string> after;
  bool likely = false;  // every edit in it is for a likely reference
};

// In order of file and line; edits that share a line come together.
std::vector<EditedLines> edited_lines(const Plan& plan, const TreeReader& tree);

}  // namespace yc::report
