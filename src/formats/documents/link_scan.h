// Where the links of a document stand.
#pragma once

#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::documents {

struct Link {
  // html: an attribute in HTML, which a site counts from where the page is served. document: the name of
  // another document, without its ending. glob: a pattern of such names.
  enum class Kind : unsigned char { path, html, document, glob } kind = Kind::path;
  Span span;  // of the path, without a fragment
};

// Stands in a document that lists others by patterns.
inline constexpr std::string_view kListsByPatterns = ":glob:";

std::vector<Link> scan_markdown(std::string_view bytes);
std::vector<Link> scan_restructured(std::string_view bytes);

}  // namespace yc::documents
