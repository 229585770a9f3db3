#include "formats/capabilities/carving.h"

#include "base/text.h"

namespace yc {

std::vector<Edit> Carver::look_above(const ReferenceGraph&, const Unit&, const TreeReader&,
                                     const std::string&) const {
  return {};
}

Span lines_of(std::string_view bytes, Span statement) {
  std::size_t begin = line_begin(bytes, statement.begin);
  while (begin > 0) {
    std::size_t above = line_begin(bytes, begin - 1);
    std::size_t first = bytes.find_first_not_of(" \t", above);
    if (first == std::string_view::npos || first >= begin || bytes[first] != '#') break;
    begin = above;
  }
  // A comment at the very top speaks of the whole file.
  if (begin == 0 && line_begin(bytes, statement.begin) > 0) begin = line_begin(bytes, statement.begin);
  std::size_t end = bytes.find('\n', statement.end);
  end = end == std::string_view::npos ? bytes.size() : end + 1;
  return span_of(begin, end);
}

}  // namespace yc
