// Modules of Python that documents describe: directives and roles of reStructuredText (.. automodule::
// pole.tide, :mod:`pole.tide`; Sphinx, "autodoc" and "The Python domain"), the same between braces in
// Markdown (MyST, "Roles and Directives"), and "::: pole.tide" (mkdocstrings).
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> documented_modules_format();

}  // namespace yc
