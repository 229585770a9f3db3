// Content hashes: 128 bits of XXH3, written as 32 hexadecimal digits. They guard against accidents, not
// attackers.
#pragma once

#include <string>
#include <string_view>

namespace yc {

std::string content_hash(std::string_view bytes);

}  // namespace yc
