// Whether any of some names stands in a text: one pass for all of them, in leaps (S. Wu and U. Manber, "A
// fast algorithm for multi-pattern searching", 1994).
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

namespace yc {

class NameSearch {
 public:
  // An empty name is found everywhere.
  explicit NameSearch(const std::vector<std::string>& names);
  bool finds_any(std::string_view text) const;

 private:
  bool always_ = false;
  std::vector<std::string> short_;  // names of one byte, searched one by one
  std::size_t window_ = 0;          // bytes of each name, from its begin, that are compared at first
  // For the last two bytes of a window of the text, how far the next window that may hold a name is at least.
  std::vector<std::uint8_t> leaps_;
  std::unordered_multimap<std::uint16_t, std::string> by_end_;  // names by the last two bytes of their window
};

}  // namespace yc
