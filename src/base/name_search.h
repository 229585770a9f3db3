// Whether any of some names stands in a text: one pass for all of them, which looks at how they end.
#pragma once

#include <array>
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
  static constexpr std::size_t kEnd = 4;  // bytes of a name's end that are looked up at once
  static std::uint32_t slot(std::uint32_t end) { return (end * 0x9E3779B1U) >> 16; }

  bool always_ = false;
  std::vector<std::string> short_;          // names of fewer bytes than kEnd, searched one by one
  std::array<std::uint64_t, 1024> ends_{};  // a bit for each slot that a name's end falls into
  std::unordered_multimap<std::uint32_t, std::string> by_end_;
};

}  // namespace yc
