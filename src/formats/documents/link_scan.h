// Where the links of a document stand.
#pragma once

#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::documents {

struct Link {
  Span span;              // of the path, without a fragment
  bool document = false;  // the name of another document, without its ending
};

std::vector<Link> scan_markdown(std::string_view bytes);
std::vector<Link> scan_restructured(std::string_view bytes);

}  // namespace yc::documents
