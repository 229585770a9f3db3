// Lines and characters of a text, as an editor counts them (Language Server Protocol 3.17, "Text Documents").
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/utf16.h"

namespace yc::serve {

// What characters of a line are counted in.
enum class Encoding : std::uint8_t { utf8, utf16 };

struct Place {
  std::uint32_t line = 0, character = 0;  // from 0
  auto operator<=>(const Place&) const = default;
};

class TextPlaces {
 public:
  // Of a file's bytes. An editor shows neither a byte-order mark nor which encoding a file has: UTF-16 with
  // its mark is counted as the text that it is, and bytes that are not UTF-8 as one character each.
  TextPlaces(std::string_view bytes, Encoding encoding);
  // The bytes must be those that it was made of.
  Place place_of(std::string_view bytes, std::uint32_t offset) const;
  // What lies behind the end of a line, or of the text, is its end.
  std::uint32_t offset_of(std::string_view bytes, Place place) const;

 private:
  std::string_view shown(std::string_view bytes) const {
    return wide_ ? std::string_view(wide_->text) : bytes;
  }
  std::uint32_t units_of(std::string_view text) const;

  Encoding encoding_;
  bool is_utf8_ = true;
  std::uint32_t mark_ = 0;            // bytes of a byte-order mark, where text begins
  std::optional<Utf16Text> wide_;     // of a file in UTF-16
  std::vector<std::uint32_t> lines_;  // where each begins, in the text that is shown
};

}  // namespace yc::serve
