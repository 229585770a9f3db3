#pragma once

#include <string>

namespace waterlevel {

// Millimetres above the station's datum.
struct Level {
  int millimetres = 0;
};

std::string text_of(Level level);
int known_stations();

}  // namespace waterlevel
