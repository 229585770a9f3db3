// Tests that a runner finds by the names of their files, and would not find by new ones.
#pragma once

#include <vector>

#include "formats/capabilities/consequences.h"
#include "formats/format.h"

namespace yc::python {

// Files with tests whose names fit a pattern of pytest's (`python_files` in the settings above them, else its
// own, pytest documentation, "Conventions for Python test discovery") and would fit none, or which leave the
// folders that the settings have searched (`testpaths`).
std::vector<Blocker> uncollected_tests(const TreeView& before, const MoveSet& moves);

}  // namespace yc::python
