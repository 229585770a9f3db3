#include "level.hpp"

namespace waterlevel {

std::string text_of(Level level) { return std::to_string(level.millimetres / 1000) + "." + std::to_string(level.millimetres % 1000) + " m"; }

int known_stations() { return STATION_COUNT; }

}  // namespace waterlevel
