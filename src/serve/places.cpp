#include "serve/places.h"

#include <algorithm>

#include "base/utf8.h"

namespace yc::serve {

namespace {

constexpr std::string_view kMark = "\xEF\xBB\xBF";

// Bytes of the character that begins with this one.
std::size_t length_of(unsigned char first) {
  return first < 0x80 ? 1 : first < 0xE0 ? 2 : first < 0xF0 ? 3 : 4;
}

}  // namespace

TextPlaces::TextPlaces(std::string_view bytes, Encoding encoding)
    : encoding_(encoding), wide_(read_utf16(bytes)) {
  is_utf8_ = wide_ || is_utf8(bytes);
  if (!wide_ && bytes.starts_with(kMark)) mark_ = static_cast<std::uint32_t>(kMark.size());
  std::string_view text = shown(bytes);
  lines_.push_back(mark_);
  for (std::size_t i = mark_; i < text.size(); ++i) {
    bool is_end = text[i] == '\n' || (text[i] == '\r' && (i + 1 == text.size() || text[i + 1] != '\n'));
    if (is_end) lines_.push_back(static_cast<std::uint32_t>(i + 1));
  }
}

std::uint32_t TextPlaces::units_of(std::string_view text) const {
  if (encoding_ == Encoding::utf8 && is_utf8_) return static_cast<std::uint32_t>(text.size());
  std::uint32_t out = 0;
  for (std::size_t at = 0; at < text.size(); ++out) {
    auto first = static_cast<unsigned char>(text[at]);
    std::size_t size = is_utf8_ ? length_of(first) : 1;
    bool is_pair = is_utf8_ ? size == 4 : encoding_ == Encoding::utf8 && first >= 0x80;  // shown as two
    if (is_pair) ++out;
    at += size;
  }
  return out;
}

Place TextPlaces::place_of(std::string_view bytes, std::uint32_t offset) const {
  std::string_view text = shown(bytes);
  if (wide_) {
    auto at = std::lower_bound(wide_->offsets.begin(), wide_->offsets.end(), offset);
    offset = static_cast<std::uint32_t>(at - wide_->offsets.begin());
  }
  offset = std::clamp(offset, mark_, static_cast<std::uint32_t>(text.size()));
  auto line = std::upper_bound(lines_.begin(), lines_.end(), offset) - lines_.begin() - 1;
  std::uint32_t begin = lines_[static_cast<std::size_t>(line)];
  return {static_cast<std::uint32_t>(line), units_of(text.substr(begin, offset - begin))};
}

std::uint32_t TextPlaces::offset_of(std::string_view bytes, Place place) const {
  std::string_view text = shown(bytes);
  if (place.line >= lines_.size()) return static_cast<std::uint32_t>(bytes.size());
  std::size_t at = lines_[place.line];
  for (std::uint32_t left = place.character; left > 0 && at < text.size();) {
    if (text[at] == '\n' || text[at] == '\r') break;
    std::size_t size = is_utf8_ ? length_of(static_cast<unsigned char>(text[at])) : 1;
    std::uint32_t units = units_of(text.substr(at, size));
    if (units > left) break;  // within a character
    left -= units;
    at += size;
  }
  return wide_ ? wide_->offsets[at] : static_cast<std::uint32_t>(at);
}

}  // namespace yc::serve
