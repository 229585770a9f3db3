// Headers that moc finds beside their sources, once they lie elsewhere: they are listed among the target's
// sources.
#pragma once

#include <vector>

#include "formats/capabilities/companions.h"
#include "formats/capabilities/words.h"

namespace yc::cmake {

// A word for each such header beside the one that names its source, where just one does in the nearest
// script. Where none does, nothing: the header is held back by whoever looks for such pairs afterwards.
std::vector<Proposal> listed_headers(const ListWords& words, const ClaimedTree& before, const MoveSet& moves);

}  // namespace yc::cmake
