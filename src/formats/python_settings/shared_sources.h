// Projects of one workspace of pyproject.toml files that depend on each other: by the path of a folder, or by
// the workspace ([tool.uv.workspace], [tool.uv.sources]).
#pragma once

#include <vector>

#include "formats/capabilities/shared_definitions.h"

namespace yc::python_settings {

std::vector<SharedDefinitions::Change> share_sources(const ClaimedTree& before);
std::vector<SharedDefinitions::Change> unshare_sources(const ClaimedTree& before);

}  // namespace yc::python_settings
