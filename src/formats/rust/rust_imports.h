// The tree of an import, taken apart (the Rust Reference, "Use declarations").
#pragma once

#include <string_view>
#include <vector>

#include "formats/rust/rust_scan.h"
#include "formats/rust/rust_tokens.h"

namespace yc::rust {

// Reads from the token behind "use" to the ";"; adds one import, made after `common`, for each name. The
// index of the token behind the ";", or 0 for what is no import.
std::size_t read_imports(std::string_view bytes, const std::vector<Token>& tokens, std::size_t at,
                         const Import& common, std::vector<Import>& out);

}  // namespace yc::rust
