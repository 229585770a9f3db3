// Paths of items in the settings of lints (the Clippy book, "Configuration"): they are counted from a crate's
// name, and see private modules.
#pragma once

#include <optional>

#include "formats/format.h"
#include "formats/rust/rust_crates.h"
#include "formats/rust/rust_relocation.h"

namespace yc::rust {

bool is_lint_settings(const RelPath& path);
// References from all settings of lints that lead into sources of the tree.
void add_lint_references(const Reading& in, const Crates& crates);
// How such a reference is spelled after a move; nothing if it is none, or the module leaves its crate.
std::optional<Proposal> lint_respelled(const RewriteRequest& need, const Crates& crates,
                                       const Relocation& moved);

}  // namespace yc::rust
