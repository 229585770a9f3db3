// The virtual folders of a solution, which follow the projects in them where they mirrored the disk.
#pragma once

#include <optional>

#include "formats/format.h"
#include "formats/solutions/solution_text.h"

namespace yc::solutions {

std::optional<Proposal> mirror_folders(const RelPath& path, std::string_view bytes, const Solution& solution,
                                       const MoveSet& moves);

}  // namespace yc::solutions
