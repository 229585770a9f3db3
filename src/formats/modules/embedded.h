// Scripts within pages and components (HTML Living Standard, "The script element"; single-file components).
#pragma once

#include "base/path.h"
#include "formats/modules/module_scan.h"

namespace yc::modules {

bool holds_scripts(const RelPath& path);

// The facts of all scripts in the text, at their places in it.
ModuleFacts scan_embedded(std::string_view bytes);

}  // namespace yc::modules
