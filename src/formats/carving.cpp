#include "formats/capabilities/carving.h"

namespace yc {

std::vector<Edit> Carver::look_above(const ReferenceGraph&, const Unit&, const TreeReader&,
                                     const std::string&) const {
  return {};
}

Span lines_of(std::string_view bytes, Span statement) {
  auto line_start = [&](std::size_t at) {
    std::size_t end = at == 0 ? std::string_view::npos : bytes.rfind('\n', at - 1);
    return end == std::string_view::npos ? std::size_t{0} : end + 1;
  };
  std::size_t begin = line_start(statement.begin);
  while (begin > 0) {
    std::size_t above = line_start(begin - 1);
    std::size_t first = bytes.find_first_not_of(" \t", above);
    if (first == std::string_view::npos || first >= begin || bytes[first] != '#') break;
    begin = above;
  }
  // A comment at the very top speaks of the whole file.
  if (begin == 0 && line_start(statement.begin) > 0) begin = line_start(statement.begin);
  std::size_t end = bytes.find('\n', statement.end);
  end = end == std::string_view::npos ? bytes.size() : end + 1;
  return {static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end)};
}

}  // namespace yc
