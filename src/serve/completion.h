// Paths that could stand where a reference does, in the spelling that the place uses.
#pragma once

#include "serve/asked.h"

namespace yc::serve {

// Null where no reference stands.
json completion(const Asked& asked, const RelPath& file, const json& position);

}  // namespace yc::serve
