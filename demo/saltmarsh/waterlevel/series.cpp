#include "series.hpp"

#include <algorithm>

namespace waterlevel {

Level highest(const std::vector<Level>& series) {
  return *std::max_element(series.begin(), series.end(), [](Level a, Level b) { return a.millimetres < b.millimetres; });
}

}  // namespace waterlevel
