// Byte ranges, and where they are for a person.
#pragma once

#include <cstddef>
#include <cstdint>
#include <string_view>

namespace yc {

// Half-open range of byte offsets in one file.
struct Span {
  std::uint32_t begin = 0;
  std::uint32_t end = 0;
  std::uint32_t size() const { return end - begin; }
  bool holds(const Span& other) const { return begin <= other.begin && other.end <= end; }
  auto operator<=>(const Span&) const = default;
};

inline Span span_of(std::size_t begin, std::size_t end) {
  return {static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end)};
}

// Line and column, both from 1; the column counts bytes.
struct Position {
  std::uint32_t line = 1;
  std::uint32_t column = 1;
};

inline Position position_at(std::string_view text, std::uint32_t offset) {
  Position at;
  for (std::uint32_t i = 0; i < offset && i < text.size(); ++i) {
    if (text[i] == '\n') {
      ++at.line;
      at.column = 1;
    } else {
      ++at.column;
    }
  }
  return at;
}

}  // namespace yc
