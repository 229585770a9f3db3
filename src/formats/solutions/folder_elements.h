// Virtual folders of a solution in XML (.slnx): <Folder Name="/src/gauges/"> around what it shows.
#pragma once

#include <optional>
#include <string_view>
#include <vector>

#include "formats/format.h"

namespace yc::solutions {

// A way to have the folders mirror the disk after the moves as they did before, where what they show can stay
// where it stands in the text: a folder is renamed, or parted in two.
std::optional<Proposal> part_folders(const RelPath& path, std::string_view bytes, const MoveSet& moves);

// Edits that put the element, of which the path stands at `span`, with `text` in its place into the folder
// that shows it after the moves. None if it stays in its folder, or part_folders() has it follow.
std::vector<Edit> into_folder(const RelPath& path, std::string_view bytes, const MoveSet& moves, Span span,
                              const std::string& text);

}  // namespace yc::solutions
