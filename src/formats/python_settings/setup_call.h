// The arguments of the setup() call in a setup.py, as values with keys.
#pragma once

#include <string_view>
#include <vector>

#include "formats/values/values.h"

namespace yc::python_settings {

// Strings only; the keys are the names of arguments and calls, and the strings before a colon.
std::vector<values::Value> setup_values(std::string_view bytes);

}  // namespace yc::python_settings
