// The crates that the manifests of a tree make: the targets of each package, named or found at their default
// places, and what their sources call each other (the Cargo Book, "Cargo Targets", "Specifying
// Dependencies").
#pragma once

#include <vector>

#include "formats/format.h"

namespace yc::cargo {

std::vector<Crate> crates_of(const Reading& in);

}  // namespace yc::cargo
