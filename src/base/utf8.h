// UTF-8 (RFC 3629).
#pragma once

#include <cstddef>
#include <string_view>

namespace yc {

// How many bytes the character takes that a text begins with; 0 if what it begins with is none.
std::size_t utf8_length(std::string_view text);
bool is_utf8(std::string_view text);

}  // namespace yc
