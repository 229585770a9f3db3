// What the references between the assemblies of a tree lack, name in vain, and need no more.
#pragma once

#include "formats/capabilities/reviews.h"

namespace yc::assemblies {

// Ids: missing-unit-reference, unknown-unit, unused-unit-reference (a note).
std::vector<Remark> review_units(const TreeView& view);

}  // namespace yc::assemblies
