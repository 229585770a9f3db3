// A script is run several times, for the sides of its conditionals (see branch_explorer.h), and most of what
// it does comes out the same each time. A step whose values are all as in an earlier run is not taken again:
// what it gave is kept here, and what it found is in the graph already.
#pragma once

#include <algorithm>
#include <cstdint>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

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

// The variables that a step asked for, and the stamps of the values that it found.
using Reads = std::vector<std::pair<std::string, Stamp>>;

template <typename Gave>
struct Remembered {
  Reads reads;
  Gave gave;
};

// What steps gave, by a key for the place of a step and the reads that led to it.
template <typename Gave>
class RunMemory {
 public:
  // What the step gave when all that it read was as it is now; null if it never was. now(name) gives the
  // stamp that a variable's value has.
  template <typename Now>
  const Remembered<Gave>* find(const std::string& step, const Now& now) const {
    auto at = known_.find(step);
    if (at == known_.end()) return nullptr;
    for (const Remembered<Gave>& one : at->second) {
      auto is_same = [&](const auto& read) { return now(read.first) == read.second; };
      if (std::all_of(one.reads.begin(), one.reads.end(), is_same)) return &one;
    }
    return nullptr;
  }
  void keep(const std::string& step, Reads reads, Gave gave) {
    constexpr std::size_t kMost = 16;  // of one step; a step that varies more is taken again
    auto& all = known_[step];
    if (all.size() < kMost) all.push_back({std::move(reads), std::move(gave)});
  }

 private:
  std::unordered_map<std::string, std::vector<Remembered<Gave>>> known_;
};

}  // namespace yc
