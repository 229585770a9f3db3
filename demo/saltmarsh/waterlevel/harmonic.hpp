#pragma once

#include "level.hpp"

namespace waterlevel {

// One constituent of the tide: amplitude in millimetres, period in hours.
struct Constituent {
  double amplitude;
  double period;
};

Level predict(const Constituent* constituents, int count, double hour);

}  // namespace waterlevel
