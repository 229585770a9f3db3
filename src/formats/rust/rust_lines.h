// Module lines that change with the modules that they declare.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/edit.h"
#include "formats/rust/rust_crates.h"
#include "formats/rust/rust_relocation.h"

namespace yc::rust {

// "pub(in crate::tide)", so that what stands in `where` is seen up to `reach`, or as far up as that can be
// said there; empty for the module itself.
std::string visibility_text(const ModulePath& reach, const ModulePath& where);

// Edits that have a module declared where it is looked for now, as widely seen as before. Nothing if the line
// cannot be written there.
std::optional<std::vector<Edit>> line_edits(const Crates& crates, const Relocation& moved, int module);
// Edits of what a module and those below it let others see, so that these still do.
void add_visibility_edits(const Crates& crates, const Relocation& moved, int module, std::vector<Edit>& out);

}  // namespace yc::rust
