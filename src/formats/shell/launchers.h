// Commands that start others, as runners of package scripts do.
#pragma once

#include <set>

#include "formats/shell/command_line.h"

namespace yc::shell {

struct Launched {
  std::set<std::size_t> names;  // words that name a program or a script of a manifest, which no path does
  std::set<std::size_t> lines;  // words that are command lines of their own
};
// The first word of a command is a name unless there is a `/` in it: where it is looked up, the current
// folder does not count. So is what npx, yarn run, pnpm exec and their kin are asked to start.
Launched launched(const Command& command);

}  // namespace yc::shell
