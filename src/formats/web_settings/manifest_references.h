// What package manifests name: entries, lists of files and members, scripts, aliases of packages.
#pragma once

#include "formats/format.h"

namespace yc::web_settings {

void read_manifests(const Reading& in);

}  // namespace yc::web_settings
