// How module lines, visibilities and paths are written once modules have moved.
#pragma once

#include <vector>

#include "formats/proposals.h"
#include "formats/rust/rust_crates.h"
#include "formats/rust/rust_relocation.h"

namespace yc::rust {

// Ways to have a reference lead to where its modules went, best first; none if there is none.
std::vector<Proposal> respelled(const RewriteRequest& need, const Crates& crates);

}  // namespace yc::rust
