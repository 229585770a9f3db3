// Expressions that climb from a module to a folder above it: path.dirname(__dirname), __dirname + "/..".
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace yc::modules {

// The same expression, climbing `more` folders further, or fewer. Nothing if it is no such expression, or
// climbs too few.
std::optional<std::string> climbing(std::string_view expression, int more);

}  // namespace yc::modules
