// Requests to move: the move sheet (docs/move-sheet.md) and the FROM… TO of a command line.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

// Reads a move sheet. `name` is used in error places. Both sides are full paths from the root.
Result<std::vector<Move>> parse_sheet(std::string_view text, std::string_view name, const TreeReader& tree);

// What a file mover would do: `to` is a folder to move into if it exists as one or ends in '/', else a new
// name. Paths are from the root already; `into` tells that `to` was written with a trailing '/'.
Result<std::vector<Move>> moves_from_arguments(const TreeReader& tree, const std::vector<RelPath>& from,
                                               const RelPath& to, bool into);

// A path as it is written in a move sheet, quoted if it must be.
std::string sheet_text(const RelPath& path);

}  // namespace yc
