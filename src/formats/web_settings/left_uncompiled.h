// Sources that a compiler takes in because they lie below its settings, and that leave.
#pragma once

#include "formats/capabilities/consequences.h"

namespace yc::web_settings {

// Settings that list nothing, or "**", take in whatever lies below their folder (the TypeScript handbook,
// "include"). Names sources that no settings would take in any more, and that nothing which they do imports.
std::vector<Blocker> left_uncompiled(const TreeView& before, const TreeView& planned, const MoveSet& moves);

}  // namespace yc::web_settings
