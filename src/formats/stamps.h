// Numbers that tell values of a script apart, so that equal ones are known without looking at all of them.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <unordered_map>

#include "base/hash.h"
#include "base/traced_text.h"
#include "model/reference.h"

namespace yc {

// Tells values apart: equal stamps, equal values. No value at all has stamp 0.
using Stamp = std::uint32_t;

// Gives stamps to values by their keys: all that tells one from others, as bytes. Of a key its hash is kept.
class Stamps {
 public:
  Stamps();
  Stamp of(std::string_view key) {
    return known_.try_emplace(seeded_hash(key, seed_), static_cast<Stamp>(known_.size() + 1)).first->second;
  }

 private:
  struct LowHalf {
    std::size_t operator()(const Hash128& hash) const { return hash.low; }
  };
  std::uint64_t seed_;
  std::unordered_map<Hash128, Stamp, LowHalf> known_;
};

// What a key is put together of.
template <typename Number>
void add_number(std::string& key, Number number) {
  key.append(reinterpret_cast<const char*>(&number), sizeof number);
}
void add_bytes(std::string& key, const std::string& bytes);
void add_text(std::string& key, const TracedText& text);  // with its origins and the passages it came through
void add_site(std::string& key, const Site& site);
void add_base(std::string& key, const Base& base);

}  // namespace yc
