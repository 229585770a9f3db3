// Whether the tables of a TOML text nest deeper than anybody writes them.
#pragma once

#include <string_view>

namespace yc::values {

// Asked before a text is given to the library, which makes a table in a table for each dot of a key and takes
// them apart one in the other: a hundred thousand dots would overflow the stack.
bool nests_too_deeply(std::string_view toml);

}  // namespace yc::values
