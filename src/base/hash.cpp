#include "base/hash.h"

#include <fmt/format.h>
#include <xxhash.h>

namespace yc {

std::string content_hash(std::string_view bytes) {
  XXH128_hash_t hash = XXH3_128bits(bytes.data(), bytes.size());
  return fmt::format("{:016x}{:016x}", hash.high64, hash.low64);
}

Hash128 seeded_hash(std::string_view bytes, std::uint64_t seed) {
  XXH128_hash_t hash = XXH3_128bits_withSeed(bytes.data(), bytes.size(), seed);
  return {hash.low64, hash.high64};
}

}  // namespace yc
