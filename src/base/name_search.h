// Whether any of some names stands in a text: one pass for all of them.
#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

namespace yc {

class NameSearch {
 public:
  // Names of one byte and more; an empty one is found everywhere.
  explicit NameSearch(const std::vector<std::string>& names);
  bool finds_any(std::string_view text) const;
  std::size_t size() const { return size_; }

 private:
  static std::uint16_t pair_at(const char* at) {
    return static_cast<std::uint16_t>(static_cast<unsigned char>(at[0]) | static_cast<unsigned char>(at[1])
                                                                              << 8);
  }

  std::size_t size_ = 0;
  bool always_ = false;
  bool may_begin(const char* at) const {
    std::uint16_t pair = pair_at(at);
    return begins_[pair / 64] >> (pair % 64) & 1;
  }

  std::array<std::uint64_t, 1024> begins_{};             // a bit for each two bytes that begin a name
  std::array<std::vector<std::string>, 256> by_second_;  // names, by their second byte
  std::vector<char> single_;                             // names of one byte
};

}  // namespace yc
