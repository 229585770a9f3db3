// Expressions that climb from a file of Python to a folder above it: Path(__file__).parents[1],
// HERE.parent.parent, os.path.dirname(os.path.dirname(__file__)).
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace yc::python {

// The same expression, climbing `more` folders further; fewer, if that is negative. Nothing if it ends in
// nothing that climbs, or climbs too few.
std::optional<std::string> climbing(std::string_view expression, int more);

}  // namespace yc::python
