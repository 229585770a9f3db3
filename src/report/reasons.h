// Why references lead where they do, in words.
#pragma once

#include "inspect/reasons.h"
#include "report/text.h"

namespace yc::report {

std::string reasons_text(const std::vector<Reason>& reasons, const TreeReader& tree, const TextStyle& style);
// What a plan makes of a line: each reference before and after it, and the edits there or that there are
// none. `after` is the planned tree.
std::string planned_reasons_text(const PlannedReasons& reasons, const TreeReader& before,
                                 const TreeReader& after, const TextStyle& style);
std::string reasons_json(const std::vector<Reason>& reasons, const TreeReader& tree);

}  // namespace yc::report
