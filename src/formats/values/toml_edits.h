// Keys of TOML 1.0 tables as they stand in a text, inline or on lines of their own.
#pragma once

#include <string_view>

#include "base/span.h"

namespace yc::values {

// The key that stands for a value, with it: from where the key begins to the value's end. `value` lies within
// its quotes, if it has some.
Span assignment(std::string_view text, Span value, bool is_quoted);
// The same with what parts it from its neighbours: a comma, or its line.
Span with_separator(std::string_view text, Span assignment);

}  // namespace yc::values
