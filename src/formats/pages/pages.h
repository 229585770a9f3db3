// Pages: HTML, templates of it, components, SVG; and web app manifests (W3C Web Application Manifest).
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> pages_format();

}  // namespace yc
