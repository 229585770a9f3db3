// The keyed hash (BLAKE2b, RFC 7693) by which the records that this user wrote on this machine are known from
// those that came with a tree. Its key lies in the user's own state folder, never in a tree.
#pragma once

#include <array>
#include <string>
#include <string_view>

#include "base/result.h"

namespace yc {

class Seal {
 public:
  // By the key in `folder` (absolute), the user's own, which is made on first use if `make` says so. A key
  // that others may read or write, or that lies within the tree at `root`, is refused.
  static Result<Seal> of(const std::string& folder, const std::string& root, bool make);

  std::string sign(std::string_view text) const;  // 64 hexadecimal digits
  bool fits(std::string_view text, std::string_view signature) const;

 private:
  static constexpr std::size_t kBytes = 32;
  std::array<unsigned char, kBytes> key_{};
};

}  // namespace yc
