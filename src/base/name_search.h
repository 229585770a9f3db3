// Whether any of some names stands in a text.
//
// Few names: each is looked for by its rarest byte, which the machine finds faster than it can compare. Many:
// one pass for all of them, in leaps (S. Wu and U. Manber, "A fast algorithm for multi-pattern searching",
// 1994).
#pragma once

#include <cstddef>
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
  const std::vector<std::string>& names() const { return names_; }

 private:
  struct Name {
    std::string text;
    std::size_t at = 0;         // of the byte that it is found by
    std::ptrdiff_t beside = 0;  // from there to the byte that is compared next
  };
  // Names that are found by the same byte.
  struct Sharing {
    char byte;
    std::vector<Name> names;
  };
  void prepare_leaps(const std::vector<std::string>& names);
  bool finds_in_leaps(std::string_view text) const;

  std::vector<std::string> names_;
  bool always_ = false;
  std::vector<Sharing> by_byte_;  // empty if there are too many bytes, or too frequent ones
  std::size_t window_ = 0;        // bytes of each name, from its begin, that are compared at first
  // For the last two bytes of a window of the text, how far the next window that may hold a name is at least.
  std::vector<std::uint8_t> leaps_;
  std::unordered_multimap<std::uint16_t, std::string> by_end_;  // names by the last two bytes of their window
};

}  // namespace yc
