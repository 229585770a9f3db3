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

// In a sentence: what a build does otherwise, what came of it, how it ended.
std::string difference_text(const Difference& one);
std::string verdict_text(const Rehearsed& item);
std::string run_text(const BuildRun& run);

}  // namespace yc::report
