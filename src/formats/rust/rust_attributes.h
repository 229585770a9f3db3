// Attributes that hold for all that stands in a module.
#pragma once

#include <set>
#include <string>
#include <vector>

#include "formats/rust/rust_crates.h"

namespace yc::rust {

// Those of the module lines from a module up to the root, and of the sources themselves, as they stand
// between
// "[" and "]"; not those of the root, and none that change nothing of what a module holds.
std::set<std::string> attributes_above(const Crates& crates, int module);

// What a module has to say for itself once it stands in another, so that it is compiled when it was:
// conditions that it would leave.
std::vector<std::string> conditions_to_keep(const Crates& crates, int old_parent, int new_parent);
// The first attribute that it would come under and did not before; empty for none.
std::string condition_gained(const Crates& crates, int old_parent, int new_parent);

}  // namespace yc::rust
