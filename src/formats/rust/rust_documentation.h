// Examples in documentation, and paths in it (the rustdoc book, "Documentation tests", "Linking to items by
// name").
#pragma once

#include <string_view>
#include <vector>

#include "formats/rust/rust_scan.h"
#include "formats/rust/rust_tokens.h"

namespace yc::rust {

// Adds the imports and paths of all documentation that stands together from a token on. The index of the
// token behind it.
std::size_t read_documentation(std::string_view bytes, const std::vector<Token>& tokens, std::size_t at,
                               std::int32_t scope, SourceFacts& out);

}  // namespace yc::rust
