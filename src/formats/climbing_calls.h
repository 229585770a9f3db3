// Calls that climb from folder to folder, as Python and JavaScript write them: dirname(dirname(file)).
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace yc {

// The same expression, climbing `more` folders further, or fewer. Nothing if it is no such call, or not of so
// many.
std::optional<std::string> climbing_calls(std::string_view expression, int more);

}  // namespace yc
