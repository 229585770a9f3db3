// Content hashes: 128 bits of XXH3, written as 32 hexadecimal digits. They guard against accidents, not
// attackers.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>

namespace yc {

std::string content_hash(std::string_view bytes);

// The same as numbers. With a seed that nobody can foresee no content can be made that has another's hash.
struct Hash128 {
  std::uint64_t low = 0, high = 0;
  bool operator==(const Hash128&) const = default;
};
Hash128 seeded_hash(std::string_view bytes, std::uint64_t seed);

}  // namespace yc
