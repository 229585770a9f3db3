// Solutions: lists of projects under virtual folders. The text form (.sln), its successor in XML (.slnx) and
// filters of either (.slnf, JSON).
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> solutions_format();

}  // namespace yc
