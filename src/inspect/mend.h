// Mending what check finds in projects that keep a tree of their own, as their own style is.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "inspect/inspect.h"
#include "inspect/managed.h"
#include "plan/plan.h"

namespace yc {

// The kinds of findings that can be mended.
const std::vector<std::string>& mendable();
// A plan of edits alone: files are listed as their siblings are, what leads nowhere or stands twice is taken
// out, letters get the case that the disk has, references between units are added or taken out. What leads
// nowhere is led to the only file of its name, if there is one. It is verified if nothing but that has
// changed; a notice says why something is left. `only` is one file to list, whether or not check would find
// it unlisted.
Plan mend(const TreeReader& tree, const std::string& kind, const std::optional<RelPath>& only = {});
// Of one finding that leads nowhere: a plan that leads all that wants the same file to the one most likely
// meant, whether or not it is the only one of its name. Not verified if that is not known.
Plan lead_to_meant(const TreeReader& tree, const Finding& finding);

}  // namespace yc
