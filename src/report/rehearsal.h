// How a rehearsal went, as text and as JSON (docs/json.md).
#pragma once

#include <string>
#include <vector>

#include "inspect/inspect.h"
#include "rehearse/rehearsal.h"
#include "report/text.h"

namespace yc::report {

// `lacking`: what a fresh clone would lack, if it was one that did not build.
std::string rehearsal_text(const std::vector<Rehearsed>& results, const std::vector<Finding>& lacking,
                           const TreeReader& tree, const TextStyle& style);
std::string rehearsal_json(const std::vector<Rehearsed>& results, const std::vector<Finding>& lacking,
                           const TreeReader& tree);

}  // namespace yc::report
