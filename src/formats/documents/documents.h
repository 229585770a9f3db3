// Links in documents: Markdown (CommonMark 0.30, "Links", "Images", "Link reference definitions"; MyST,
// "Roles and Directives") and reStructuredText (docutils, "Directives", "Hyperlink Targets", and the
// directives and roles that take files).
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> documents_format();

}  // namespace yc
