// Whether build scripts mean the same after statements went from one to another: what is built from what, and
// what is named for what purpose. Where a statement stands does not count.
#pragma once

#include <cstdint>
#include <set>
#include <vector>

#include "plan/plan.h"

namespace yc {

// What an added or dropped unit may change: a list names its folder, and the unit around it leaves that out.
enum class Carved : std::uint8_t { script, unit };

// `scripts` are those that come, go or change; that they are read is no difference.
std::vector<Blocker> differences(const ReferenceGraph& before, const ReferenceGraph& after,
                                 const std::set<RelPath>& scripts, Carved carved);

}  // namespace yc
