// The moves that a command line asks for: FROM… TO, or a sheet.
#pragma once

#include <string>
#include <vector>

#include "cli/session.h"
#include "tree/moves.h"

namespace yc::cli {

// With what accompanies the files. `tree` is the one whose files move; `command` is named in messages.
Result<std::vector<Move>> requested_moves(const Session& session, const TreeReader& tree,
                                          const std::string& command, const std::vector<std::string>& paths,
                                          const std::string& sheet);

}  // namespace yc::cli
