#include "harmonic.hpp"

#include <cmath>

namespace waterlevel {

Level predict(const Constituent* constituents, int count, double hour) {
  double sum = 2000;
  for (int i = 0; i < count; ++i) sum += constituents[i].amplitude * std::cos(6.283185307 * hour / constituents[i].period);
  return {static_cast<int>(sum)};
}

}  // namespace waterlevel
