// Build units and what a change means for them: as text and as JSON.
#pragma once

#include <string>

#include "inspect/units.h"
#include "report/text.h"

namespace yc::report {

std::string units_text(const std::vector<UnitInfo>& units, const TextStyle& style);
std::string impact_text(const Impact& impact, const TextStyle& style);
std::string impact_json(const Impact& impact);

}  // namespace yc::report
