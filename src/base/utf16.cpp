#include "base/utf16.h"

namespace yc {

namespace {

constexpr std::uint32_t kSurrogates = 0xD800, kLowSurrogates = 0xDC00, kBehindSurrogates = 0xE000,
                        kSupplement = 0x10000;

void append_utf8(std::uint32_t c, std::string& out) {
  auto put = [&](std::uint32_t byte) { out += static_cast<char>(byte); };
  if (c < 0x80) {
    put(c);
  } else if (c < 0x800) {
    put(0xC0 | c >> 6), put(0x80 | (c & 0x3F));
  } else if (c < kSupplement) {
    put(0xE0 | c >> 12), put(0x80 | (c >> 6 & 0x3F)), put(0x80 | (c & 0x3F));
  } else {
    put(0xF0 | c >> 18), put(0x80 | (c >> 12 & 0x3F)), put(0x80 | (c >> 6 & 0x3F)), put(0x80 | (c & 0x3F));
  }
}

}  // namespace

std::optional<Utf16Text> read_utf16(std::string_view bytes) {
  if (bytes.size() % 2 != 0 || !bytes.starts_with("\xFF\xFE")) return std::nullopt;
  auto unit = [&](std::size_t at) {
    return static_cast<std::uint32_t>(static_cast<unsigned char>(bytes[at]) |
                                      static_cast<unsigned char>(bytes[at + 1]) << 8);
  };
  Utf16Text out;
  for (std::size_t at = 2; at < bytes.size(); at += 2) {
    auto begin = static_cast<std::uint32_t>(at);
    std::uint32_t c = unit(at);
    if (c >= kSurrogates && c < kBehindSurrogates) {
      if (c >= kLowSurrogates || at + 2 >= bytes.size()) return std::nullopt;
      std::uint32_t low = unit(at += 2);
      if (low < kLowSurrogates || low >= kBehindSurrogates) return std::nullopt;
      c = kSupplement + ((c - kSurrogates) << 10) + (low - kLowSurrogates);
    }
    append_utf8(c, out.text);
    out.offsets.resize(out.text.size(), begin);
  }
  out.offsets.push_back(static_cast<std::uint32_t>(bytes.size()));
  return out;
}

std::optional<std::string> to_utf16(std::string_view text) {
  std::string out;
  auto put = [&](std::uint32_t unit) {
    out += static_cast<char>(unit & 0xFF);
    out += static_cast<char>(unit >> 8);
  };
  for (std::size_t at = 0; at < text.size();) {
    auto first = static_cast<unsigned char>(text[at]);
    std::size_t size = first < 0x80 ? 1 : first >= 0xF0 ? 4 : first >= 0xE0 ? 3 : 2;
    bool starts = (first < 0x80 || first >= 0xC2) && first < 0xF5 && at + size <= text.size();
    if (!starts) return std::nullopt;
    std::uint32_t c = size == 1 ? first : first & (0xFFU >> (size + 1));
    for (std::size_t i = 1; i < size; ++i) {
      auto next = static_cast<unsigned char>(text[at + i]);
      if ((next & 0xC0) != 0x80) return std::nullopt;
      c = c << 6 | (next & 0x3F);
    }
    if (c >= kSurrogates && c < kBehindSurrogates) return std::nullopt;
    if (c >= kSupplement) {
      put(kSurrogates + ((c - kSupplement) >> 10));
      put(kLowSurrogates + ((c - kSupplement) & 0x3FF));
    } else {
      put(c);
    }
    at += size;
  }
  return out;
}

}  // namespace yc
