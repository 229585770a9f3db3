// Folders of routes that the settings of a known tool imply: next.config.*, nuxt.config.*, astro.config.*,
// svelte.config.*.
#pragma once

#include "formats/capabilities/routes.h"

namespace yc::modules {

std::vector<RouteFolder> route_folders(const ClaimedTree& before);

}  // namespace yc::modules
