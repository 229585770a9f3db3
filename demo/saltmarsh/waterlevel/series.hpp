#pragma once

#include <vector>

#include "level.hpp"

namespace waterlevel {

Level highest(const std::vector<Level>& series);

}  // namespace waterlevel
