// Commands that copy what is in the tree into the build tree: cp, install, ln, cmake -E copy and their kin.
#pragma once

#include <vector>

#include "formats/shell/command_line.h"

namespace yc::shell {

struct Copied {
  RelPath place;             // in the build tree
  RelPath of;                // a file or folder of the tree
  bool named_after = false;  // is called there what `of` is called
};

// What `command` copies.
std::vector<Copied> copied_into_build(const Command& command, const TreeReader& tree);

}  // namespace yc::shell
