// A set of bytes with a quick test. The C library's own tests depend on the locale and cost a call each.
#pragma once

#include <array>
#include <string_view>

namespace yc {

class CharClass {
 public:
  // Letters and digits of ASCII, and `more`.
  static constexpr CharClass alphanumeric_and(std::string_view more) {
    CharClass out;
    for (char c = 'a'; c <= 'z'; ++c) out.set(c);
    for (char c = 'A'; c <= 'Z'; ++c) out.set(c);
    for (char c = '0'; c <= '9'; ++c) out.set(c);
    for (char c : more) out.set(c);
    return out;
  }
  static constexpr CharClass all_but(std::string_view few) {
    CharClass out;
    for (bool& in : out.in_) in = true;
    for (char c : few) out.in_[static_cast<unsigned char>(c)] = false;
    return out;
  }
  // With all bytes that are not ASCII, as UTF-8 writes letters with.
  constexpr CharClass and_beyond_ascii() const {
    CharClass out = *this;
    for (std::size_t i = 0x80; i < out.in_.size(); ++i) out.in_[i] = true;
    return out;
  }
  constexpr bool holds(char c) const { return in_[static_cast<unsigned char>(c)]; }

 private:
  constexpr void set(char c) { in_[static_cast<unsigned char>(c)] = true; }
  std::array<bool, 256> in_{};
};

}  // namespace yc
