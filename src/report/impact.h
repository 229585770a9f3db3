// Build units and what a change means for them: as text, as JSON, as a figure.
#pragma once

#include <optional>
#include <string>

#include "inspect/units.h"
#include "report/text.h"

namespace yc::report {

std::string units_text(const std::vector<UnitInfo>& units, const TextStyle& style);
std::string impact_text(const Impact& impact, const TextStyle& style);
std::string impact_json(const Impact& impact);
// The units and who uses whom, as SVG; those that are rebuilt are marked. Graphviz draws. Nothing if it
// cannot.
std::optional<std::string> impact_figure(const Impact& impact);

}  // namespace yc::report
