#include "tree/text_signatures.h"

#include <algorithm>
#include <bit>

#include "base/name_search.h"

namespace yc {

namespace {

constexpr std::size_t kRun = 3;
constexpr std::size_t kLeast = 1, kMost = 1024;  // words of 64 bits; a file with many runs is read

// Of the run that begins at `at`.
std::uint32_t hash_at(std::string_view text, std::size_t at) {
  auto byte = [&](std::size_t i) {
    return static_cast<std::uint32_t>(static_cast<unsigned char>(text[at + i]));
  };
  return (byte(0) | byte(1) << 8 | byte(2) << 16) * 0x9E3779B1U;
}

}  // namespace

TextSignatures::Signature TextSignatures::of(std::string_view text) {
  std::size_t words = std::bit_ceil(std::clamp(text.size() / 64, kLeast, kMost));
  Signature out(words);
  auto shift = static_cast<unsigned>(32 - std::countr_zero(words * 64));
  for (std::size_t at = 0; at + kRun <= text.size(); ++at) {
    std::uint32_t bit = hash_at(text, at) >> shift;
    out[bit / 64] |= std::uint64_t{1} << (bit % 64);
  }
  return out;
}

bool TextSignatures::rules_out(const RelPath& path, const NameSearch& names) const {
  auto known = all_.find(path);
  if (known == all_.end()) return false;
  const Signature& bits = known->second;
  auto shift = static_cast<unsigned>(32 - std::countr_zero(bits.size() * 64));
  auto may_be = [&](const std::string& name) {
    for (std::size_t at = 0; at + kRun <= name.size(); ++at) {
      std::uint32_t bit = hash_at(name, at) >> shift;
      if ((bits[bit / 64] >> (bit % 64) & 1) == 0) return false;
    }
    return true;  // also a name that is shorter than a run
  };
  return std::none_of(names.names().begin(), names.names().end(), may_be);
}

}  // namespace yc
