#include "formats/json/json_tables.h"

#include <algorithm>

#include "base/text.h"

namespace yc::json {

Edit entry_edit(const RelPath& file, std::string_view bytes, std::size_t open, const std::string& entry) {
  std::size_t first = bytes.find_first_not_of(" \t\r\n", open + 1);
  bool empty = first == std::string_view::npos || bytes[first] == '}';
  bool own_line = !empty && bytes.substr(open, first - open).find('\n') != std::string_view::npos;
  auto at = static_cast<std::uint32_t>(open + 1);
  if (empty) return {file, {at, at}, " " + entry + " "};
  if (!own_line) return {file, span_of(first, first), entry + ", "};
  const char* end = bytes.find("\r\n") != std::string_view::npos ? "\r\n" : "\n";
  return {file, span_of(first, first), entry + "," + end + std::string(indent_at(bytes, first))};
}

std::size_t table_of(std::string_view bytes, std::string_view key) {
  for (std::size_t at = bytes.find(key); at != std::string_view::npos; at = bytes.find(key, at + 1)) {
    std::size_t after = bytes.find_first_not_of(" \t\r\n\"'", at + key.size());
    if (after == std::string_view::npos || bytes[after] != ':') continue;
    std::size_t open = bytes.find_first_not_of(" \t\r\n", after + 1);
    if (open != std::string_view::npos && bytes[open] == '{') return open;
  }
  return std::string_view::npos;
}

}  // namespace yc::json
