// Giving a folder a fragment of its own, included by the makefile: its paths stay relative to that one.
#pragma once

#include "formats/capabilities/carving.h"
#include "formats/format.h"

namespace yc::make {

const Carver& carver(const Format& format);

}  // namespace yc::make
