// Mending what check finds in projects that keep a tree of their own, as their own style is.
#pragma once

#include <string>
#include <vector>

#include "inspect/managed.h"
#include "plan/plan.h"

namespace yc {

// The kinds of findings that can be mended.
const std::vector<std::string>& mendable();
// A plan of edits alone: files are listed as their siblings are, what leads nowhere or stands twice is taken
// out, letters get the case that the disk has. It is verified if nothing but that has changed.
Plan mend(const TreeReader& tree, const std::string& kind);

}  // namespace yc
