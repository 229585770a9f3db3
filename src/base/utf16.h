// UTF-16 in files (RFC 2781), as editors of Windows write some of theirs.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace yc {

struct Utf16Text {
  std::string text;                    // the same in UTF-8, without the byte-order mark
  std::vector<std::uint32_t> offsets;  // in the file, of each byte of `text` and of its end
};

// What `bytes` say, if they begin with the mark of little-endian UTF-16 and are well-formed.
std::optional<Utf16Text> read_utf16(std::string_view bytes);

// UTF-8 as little-endian UTF-16, without a mark; nothing if `text` is not well-formed.
std::optional<std::string> to_utf16(std::string_view text);

}  // namespace yc
