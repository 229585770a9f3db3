#include "../level.hpp"
#include "check.hpp"

int main() {
  CHECK(waterlevel::text_of({1840}) == "1.840 m");
  CHECK(waterlevel::known_stations() == 4);
}
