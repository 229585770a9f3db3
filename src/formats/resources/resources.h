// Resource bundles in XML: GLib's .gresource.xml (glib-compile-resources(1)) and Qt's .qrc ("The Qt Resource
// System"); and the paths in UI files.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> resources_format();

}  // namespace yc
