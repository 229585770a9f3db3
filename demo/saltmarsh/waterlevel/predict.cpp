// Prints a day of predictions.
#include <cstdio>

#include "build_info.hpp"
#include "harmonic.hpp"
#include "series.hpp"

int main() {
  const waterlevel::Constituent saltmarsh[] = {{1450, 12.42}, {380, 12.0}, {95, 25.82}};
  std::vector<waterlevel::Level> day;
  for (int hour = 0; hour < 24; hour += 3) {
    day.push_back(waterlevel::predict(saltmarsh, 3, hour));
    std::printf("%02d:00 %s\n", hour, waterlevel::text_of(day.back()).c_str());
  }
  std::printf("highest %s, %d stations, version %s\n", waterlevel::text_of(waterlevel::highest(day)).c_str(), waterlevel::known_stations(), WATERLEVEL_VERSION);
}
