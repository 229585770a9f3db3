// Examples in documentation, and paths in it (the rustdoc book, "Documentation tests", "Linking to items by
// name").
#pragma once

#include <string_view>
#include <vector>

#include "formats/rust/rust_scan.h"

namespace yc::rust {

// Adds the imports and paths of lines that stand together, without the marks of comments.
void read_documentation(std::string_view bytes, const std::vector<Span>& lines, std::int32_t scope,
                        SourceFacts& out);

}  // namespace yc::rust
